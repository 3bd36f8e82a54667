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
        fields = Facts.stored_fields
        people.to_h do |person|
          stored = Facts.of_rows(fields, people: person, companies: companies[person.company_id])
          [person.id, in_words(fields, stored).merge(worked_out(person, owners[person.owner_id]))]
        end
      end

      # The same, as the records hold it: for conditions.
      # @return [Hash{Integer=>Hash{String=>Object}}]
      def self.stored(people)
        companies = Company.where(id: people.map(&:company_id).compact.uniq).as_hash(:id)
        fields = stored_fields
        people.to_h { |person| [person.id, of_rows(fields, people: person, companies: companies[person.company_id])] }
      end

      # @param person [Person]
      # @param mailbox [Mailbox, nil] who it comes from
      def for_letter(person, mailbox)
        for_people([person])[person.id].merge(mailbox ? mailbox.sender_facts : {})
      end

      # @return [Array<Core::Fields::Field>] those that stand in a column of a person or a company
      def self.stored_fields = FieldCatalogue.current.select { |field| field.column && %i[people companies].include?(field.table) && !%i[tags lists].include?(field.type) }

      # @param rows [Hash{Symbol=>#[], nil}] records by table
      # @return [Hash{String=>Object}] values by field key
      def self.of_rows(fields, rows)
        fields.to_h do |field|
          value = rows[field.table]&.[](field.column)
          [field.key, (field.type == :choices) ? SeveralChoices.read(value) : value]
        end
      end

      private

      # A letter says "restaurant" and "£1,200"; who somebody's owner is has a field of its own.
      def in_words(fields, stored)
        fields.each { |field| stored[field.key] = Core::Fields::Saying.say(field, stored[field.key]) unless %i[text date reference].include?(field.type) }
        stored
      end

      def worked_out(person, owner)
        {"person.full_name" => Core::Names.full(person.values), "person.called" => Core::Names.called(person.values), "owner.name" => owner&.name,
         "owner.first_name" => owner&.first_name, "today.date" => @today, "today.weekday" => @today.strftime("%A"), "today.month" => @today.strftime("%B")}
      end
    end
  end
end
