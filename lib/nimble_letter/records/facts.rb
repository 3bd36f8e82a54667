# frozen_string_literal: true

module NimbleLetter
  module Records
    # Values by field key for merging and for conditions in memory.
    class Facts
      # @param today [Date] the firm's
      def initialize(today:)
        @today = today
      end

      # @param people [Array<Person>]
      # @return [Hash{Integer=>Hash{String=>Object}}] facts by person id; companies and owners are read once for all
      def for_people(people)
        companies = Company.where(id: people.map(&:company_id).compact.uniq).as_hash(:id)
        owners = Account.where(id: people.map(&:owner_id).compact.uniq).as_hash(:id)
        people.to_h { |person| [person.id, stored(person, companies[person.company_id]).merge(worked_out(owners[person.owner_id]))] }
      end

      # @param person [Person]
      # @param mailbox [Mailbox, nil] who it comes from
      def for_letter(person, mailbox)
        for_people([person])[person.id].merge(mailbox ? mailbox.sender_facts : {})
      end

      private

      def stored(person, company)
        rows = {people: person, companies: company}
        Core::Fields::Standard.catalogue.filter_map { |field| [field.key, rows[field.table]&.[](field.column)] if field.column && field.type != :tags }.to_h
      end

      def worked_out(owner)
        {"owner.name" => owner&.name, "owner.first_name" => owner&.first_name, "today.date" => @today,
         "today.weekday" => @today.strftime("%A"), "today.month" => @today.strftime("%B")}
      end
    end
  end
end
