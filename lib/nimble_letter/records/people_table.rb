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
      MOST = 200

      # What is ordered by where a field is not simply a column of people.
      Order = Struct.new(:column, :join)

      # @param people [Sequel::Dataset] of people
      # @param sort [Hash, nil] "field" and "descending"; nil: newest activity first
      # @raise [Invalid] for a field that has no order
      def initialize(people, sort: nil)
        @people = people
        sort = (sort || {}).transform_keys(&:to_s)
        @descending = sort.key?("field") ? sort["descending"] == true : true
        @order = order(sort.fetch("field", LAST_HEARD))
      end

      # @return [Array<Person>]
      def page(offset:, limit:)
        ids = ids(offset, [limit, MOST].min)
        found = Person.where(id: ids).as_hash(:id)
        ids.filter_map { |id| found[id] }
      end

      # @return [Sequel::Dataset] all of them in order, for exports; empties last
      def all
        value = @order.column
        joined(@people).order(Sequel.case([[{value => nil}, 1]], 0), directed(value), directed(Sequel[:people][:id]))
      end

      private

      def order(key)
        case key
        when NAME then Order.new(Sequel[:people][:last_name_fold])
        when LAST_HEARD then Order.new(Sequel[:people][:last_activity_at])
        when "person.owner" then Order.new(Sequel[:accounts][:name], [:accounts, {Sequel[:accounts][:id] => Sequel[:people][:owner_id]}])
        else
          field = FieldCatalogue.current[key]
          raise Invalid.new("People cannot be put in order by #{field&.label || key.inspect}.", at: "sort.field") unless field&.sorted? && %i[people companies].include?(field.table)

          column = Sequel[field.table][field.compared_column]
          (field.table == :companies) ? Order.new(column, [:companies, {Sequel[:companies][:id] => Sequel[:people][:company_id]}]) : Order.new(column)
        end
      end

      def directed(column) = @descending ? Sequel.desc(column) : Sequel.asc(column)

      # First those with a value, in order; then, when they do not fill the page, those without, by number.
      def ids(offset, limit)
        value, id = @order.column, Sequel[:people][:id]
        filled = joined(@people).exclude(value => nil)
        first = filled.order(directed(value), directed(id)).limit(limit, offset).select_map(id)
        return first if first.size == limit

        before = first.empty? ? filled.count : offset + first.size
        first + joined(@people).where(value => nil).order(directed(id)).limit(limit - first.size, [offset - before, 0].max).select_map(id)
      end

      def joined(dataset) = @order.join ? dataset.left_join(*@order.join) : dataset
    end
  end
end
