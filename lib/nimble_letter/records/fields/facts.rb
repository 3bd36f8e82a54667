# frozen_string_literal: true

module NimbleLetter
  module Records
    # Values by field key for merging and for conditions in memory, as the records hold them; a letter puts them into words
    # (Core::Letters::Forms).
    class Facts
      # @param today [Date] the firm's
      def initialize(today:)
        @today = today
      end

      # @param people [Array<Person>]
      # @param deals [Boolean] with the deal each letter is about
      # @return [Hash{Integer=>Hash{String=>Object}}] facts by person id; companies and owners are read once for all
      def for_people(people, deals: false)
        owners = Account.where(id: people.map(&:owner_id).compact.uniq).as_hash(:id)
        about = deals ? deals_of(people.map(&:id)) : {}
        stored = Facts.stored(people)
        people.to_h do |person|
          [person.id, stored[person.id].merge(worked_out(person, owners[person.owner_id]), about.fetch(person.id, {}))]
        end
      end

      # @return [Hash{Integer=>Hash{String=>Object}}]
      def self.stored(people)
        companies = Company.where(id: people.map(&:company_id).compact.uniq).as_hash(:id)
        fields = stored_fields
        people.to_h { |person| [person.id, of_rows(fields, people: person, companies: companies[person.company_id])] }
      end

      # @param person [Person]
      # @param mailbox [Mailbox, nil] who it comes from
      def for_letter(person, mailbox, deals: false)
        for_people([person], deals: deals)[person.id].merge(mailbox ? mailbox.sender_facts : {})
      end

      # @return [Array<Core::Fields::Field>] those that stand in a column of a person or a company
      def self.stored_fields =
        FieldCatalogue.current.select do |field|
          field.column && %i[people companies].include?(field.table) && !%i[tags lists].include?(field.type)
        end

      # @param rows [Hash{Symbol=>#[], nil}] records by table
      # @return [Hash{String=>Object}] values by field key
      def self.of_rows(fields, rows)
        fields.to_h do |field|
          value = rows[field.table]&.[](field.column)
          [field.key, (field.type == :choices) ? SeveralChoices.read(value) : value]
        end
      end

      private

      def worked_out(person, owner)
        {
          "person.full_name" => Core::Names.full(person.values),
          "person.called" => Core::Names.called(person.values),
          "owner.name" => owner&.name,
          "owner.first_name" => owner&.first_name,
          "today.date" => @today,
          "today.weekday" => @today,
          "today.month" => @today
        }
      end

      def deals_of(person_ids)
        open = FieldCatalogue.stages_that_are("open")
        owners = Account.select_hash(:id, :name)
        fields = FieldCatalogue.current.select { |field| field.table == :deals && field.column }
        Deal.where(person_id: person_ids).all.group_by(&:person_id).transform_values do |deals|
          deal = Core::Letters::AboutDeal.of(deals, open_stages: open)
          Facts.of_rows(fields, deals: deal).merge("deal.owner_name" => owners[deal.owner_id])
        end
      end
    end
  end
end
