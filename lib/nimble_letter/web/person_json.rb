# frozen_string_literal: true

module NimbleLetter
  module Web
    # One person as the contract has it.
    module PersonJson
      COLUMNS = %i[version title first_name last_name job_title phone country time_zone consent do_not_mail address_failed fitted_on owner_id created_at].freeze

      # @param person [Records::Person]
      def self.write(person)
        PersonRows.write([person]).first.merge(person.values.slice(*COLUMNS), company_type: person.company&.type, tags: person.tags.map(&:name).sort,
          deals: person.deals.map { |deal| {name: deal.name, stage: deal.stage, value_pence: deal.value_pence} }, memberships: memberships(person))
      end

      def self.memberships(person)
        words = Work::MemberStatus::LADDER.rungs.to_h { |rung| [rung.key, rung.words] }
        person.members_dataset.eager(:sequence).order(Sequel.desc(:id)).all.map do |member|
          {sequence_id: member.sequence_id, sequence: member.sequence.name, state: member.state, status: words[member.status]}
        end
      end
      private_class_method :memberships
    end
  end
end
