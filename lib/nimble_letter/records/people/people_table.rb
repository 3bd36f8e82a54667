# frozen_string_literal: true

module NimbleLetter
  module Records
    # People in an order somebody chose, page by page to any place. Empty values come last in either direction.
    # Each order has an index of its own, so that a page reads the numbers of its people from that index alone, and
    # whole records only for those shown.
    class PeopleTable
      NAME = "person.name"
      LAST_HEARD = "activity.last"
      NOW_IN = "membership.now"
      OWNER = "person.owner"
      MOST = 200
      # What these are put in order by.
      COLUMNS = {NAME => :last_name_fold, LAST_HEARD => :last_activity_at, "company.name" => :company_fold}.freeze

      # @param people [Sequel::Dataset] of people
      # @param sort [Hash, nil] "field" and "descending"; nil: newest activity first
      # @raise [Invalid] for a field that has no order
      def initialize(people, sort: nil)
        @people = people
        sort = (sort || {}).transform_keys(&:to_s)
        @descending = sort.key?("field") ? sort["descending"] == true : true
        @parts = parts(sort.fetch("field", LAST_HEARD))
      end

      # @return [Array<Person>]
      def page(offset:, limit:)
        ids = ids(offset, [limit, MOST].min)
        found = Person.where(id: ids).as_hash(:id)
        ids.filter_map { |id| found[id] }
      end

      # @return [Array<Integer>] numbers of all of them in order, for exports
      def all_ids = @parts.flat_map { |part| part.select_map(id) }

      private

      def id = Sequel[:people][:id]

      # Datasets that follow each other, each read from one end of an index: those with a value, then those without.
      def parts(key)
        return by_owner if key == OWNER

        value = Sequel[:people][COLUMNS[key] || column_of(key)]
        [@people.exclude(value => nil).order(directed(value), directed(id)), @people.where(value => nil).order(directed(id))]
      end

      def column_of(key)
        field = FieldCatalogue.current[key]
        return field.compared_column if field&.sorted? && field.table == :people

        raise Invalid.new("People cannot be put in order by #{field&.label || key.inspect}.", at: "sort.field")
      end

      # A firm has few colleagues: the people of one after those of another, in the order of their names.
      def by_owner
        owners = Account.order(directed(:name), :id).select_map(:id) + [nil]
        owners.map { |owner| @people.where(Sequel[:people][:owner_id] => owner).order(directed(id)) }
      end

      def directed(column) = @descending ? Sequel.desc(column) : Sequel.asc(column)

      def ids(offset, limit)
        @parts.each_with_object([]) do |part, found|
          next if found.size == limit

          # A part that lies before the page is counted, not read.
          size = offset.positive? ? part.count : nil
          if size && size <= offset
            offset -= size
          else
            found.concat(part.limit(limit - found.size, offset).select_map(id))
            offset = 0
          end
        end
      end
    end
  end
end
