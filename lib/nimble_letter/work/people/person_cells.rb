# frozen_string_literal: true

module NimbleLetter
  module Work
    # Any fields of some people as text, for tables and exports; what several people share is read once.
    class PersonCells
      ADDRESSES = Core::Importing::Targets::ADDRESSES.key

      # @param people [Array<Records::Person>]
      # @param columns [Array<String>] field keys; an unknown one is an error
      # @raise [Invalid]
      # @param for_file [Boolean] written so that it can be read again, see Core::Fields::Writing
      def initialize(people, columns, companies: nil, now_in: nil, for_file: false)
        @writing = for_file ? Core::Fields::Writing.method(:write) : Core::Fields::Saying.method(:say)
        @fields = columns.map { |key| self.class.field(key) }
        ids = people.map(&:id)
        @companies = companies || Records::Company.where(id: people.map(&:company_id).compact.uniq).as_hash(:id)
        @tags =
          (
            if wants?(:tags)
              Records.db[:people_tags]
                .where(person_id: ids)
                .join(:tags, id: :tag_id)
                .order(:name_fold)
                .select_hash_groups(:person_id, :name)
            else
              {}
            end
          )
        @lists = wants?(:lists) ? Records.db[:list_people].where(person_id: ids).select_hash_groups(:person_id, :list_id) : {}
        @now_in = now_in
        @addresses = wants_addresses? ? further(ids) : {}
        # In a file a mark that says no is there or is not.
        @unmarked = for_file ? nil : false
        @names = {owners: Records::Account.select_hash(:id, :name), lists: wants?(:lists) ? Records::List.select_hash(:id, :name) : {}}
      end

      # @return [Core::Fields::Field]
      # @raise [Invalid] for a field that cannot be a column
      def self.field(key)
        field = Records::FieldCatalogue.current[key]
        return field if field&.for?(:column)

        raise Invalid.new(
          "There is no column #{key.to_s[0, 60].inspect}.",
          code: :unknown_field,
          at: "columns",
          hint: "Choose among the fields of a person and a company."
        )
      end

      # @param person [Records::Person]
      # @return [Hash{String=>String,Date,nil}] by field key
      def of(person) = @fields.to_h { |field| [field.key, cell(field, person)] }

      private

      def further(ids) = Records.db[:person_addresses].where(person_id: ids).order(:id).select_hash_groups(:person_id, :email)

      def wants_addresses? = @fields.any? { |field| field.key == ADDRESSES }

      def wants?(type) = @fields.any? { |field| field.type == type }

      def cell(field, person)
        case field.key
        when Records::PeopleTable::NAME
          Records::Person.name_of(person.values)
        when Records::PeopleTable::LAST_HEARD
          person.last_activity_at && "#{person.last_activity_at.strftime("%Y-%m-%d")}, #{person.last_activity_kind}"
        when Records::PeopleTable::NOW_IN
          @now_in&.[](person.id)
        when ADDRESSES
          Core::Importing::WordsInACell.write(@addresses.fetch(person.id, []))
        when *Core::Sieve::MARKS
          @writing.call(field, row(field, person)[field.column] || @unmarked, names: @names)
        else
          @writing.call(field, stored(field, person), names: @names)
        end
      end

      def stored(field, person)
        case field.type
        when :tags then @tags.fetch(person.id, [])
        when :lists then @lists.fetch(person.id, [])
        when :choices then Records::SeveralChoices.read(row(field, person)&.[](field.column))
        else row(field, person)&.[](field.column)
        end
      end

      def row(field, person) = (field.table == :companies) ? @companies[person.company_id] : person
    end
  end
end
