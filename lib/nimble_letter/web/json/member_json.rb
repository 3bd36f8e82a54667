# frozen_string_literal: true

module NimbleLetter
  module Web
    # Members as the contract has them.
    module MemberJson
      def self.rows(members)
        people = Records::Person.where(id: members.map(&:person_id)).eager(:company).all.to_h { |person| [person.id, person] }
        due = Records::Delivery.where(member_id: members.map(&:id), state: "due").select_hash(:member_id, :due_at)
        ladders = Work::MemberStatus.of_sequences(members.map(&:sequence_id))
        owners = Records::Account.select_hash(:id, :name)
        steps = Records::Step.where(id: members.map(&:step_id).uniq).select_hash(:id, :position)
        members.map do |member|
          person = people[member.person_id]
          {
            **member.values.slice(:id, :person_id, :step_id, :state, :left_reason, :status, :status_by_hand, :joined_at),
            step: steps[member.step_id]&.succ,
            name: person.name,
            company: person.company&.name,
            email: person.email,
            city: person.city,
            owner: owners[person.owner_id],
            away_until: person.away_until&.iso8601,
            status_words: ladders[member.sequence_id].words(member.status),
            waits_for: member.waits_for,
            paused: !member.paused_at.nil?,
            next_at: due[member.id] || member.due_at
          }
        end
      end
    end
  end
end
