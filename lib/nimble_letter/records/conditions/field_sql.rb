# frozen_string_literal: true

module NimbleLetter
  module Records
    # Reads a test on a stored field into SQL over the field's own table. Never NULL.
    class FieldSql
      def initialize(today:, me: nil)
        @today, @me = today, me
      end

      # @param node [Core::Conditions::Nodes::FieldTest]
      # @return [Sequel::SQL::Expression]
      def read(node)
        return Sequel.~(filled(node.field)) if node.is == "empty"

        Sequel.&(Sequel.~(column(node.field) => nil), test(node, column(node.field)))
      end

      # @return [Sequel::SQL::Expression] whether something stands there
      def filled(field) = Sequel.~(column(field) => nil)

      private

      def column(field) = Sequel[field.table][field.compared_column]

      def test(node, column)
        case node.is
        when "one_of", "all_of" then (node.field.type == :choices) ? several(node, column) : one_of(node, column)
        # The twin is compared byte by byte whatever the operator says; LIKE BINARY would keep the index out of it.
        when "contains" then Sequel.function(:locate, node.field.fold(node.value), column) > 0
        when "starts_with" then Sequel.ilike(column, "#{Records.db.dataset.escape_like(node.field.fold(node.value))}%")
        when "yes" then {column => true}
        when "equals", "on" then {column => node.value}
        when "more_than", "after" then column > node.value
        when "less_than" then column < node.value
        # A day whose year nobody knows is before no other.
        when "before" then Sequel.&(column < node.value, column > Core::Fields::Yearless::LAST)
        when "between" then within(column, node.value.first..node.value.last)
        else date(node, column)
        end
      end

      def date(node, column)
        case node.is
        when "in_last" then within(column, node.value.days_before(@today))
        when "in_next" then within(column, node.value.days_after(@today))
        when "month_is" then {Sequel.function(:month, column) => node.value}
        when "yearly_in_next" then yearly(column, Core::Conditions::Yearly.ranges(@today, node.value))
        when "yearly_in_last" then yearly(column, Core::Conditions::Yearly.ranges(@today - node.value + 1, node.value))
        end
      end

      def within(column, range) = Sequel.&(column >= range.first, column <= range.last)

      def yearly(column, ranges)
        number = Sequel.function(:month, column) * 100 + Sequel.function(:dayofmonth, column)
        Sequel.|(*ranges.map { |range| within(number, range) })
      end

      def one_of(node, column)
        values = case node.field.type
        when :text then node.value.map { |value| node.field.fold(value) }
        when :reference then node.value.map { |id| (id == "me") ? @me : id }.compact
        else node.value
        end
        values.empty? ? ConditionSql::NEVER : {column => values}
      end

      # Several choices are kept as one text, see SeveralChoices.
      def several(node, column)
        tests = node.value.map { |key| Sequel.function(:locate, SeveralChoices.mark(key), column) > 0 }
        (node.is == "all_of") ? Sequel.&(*tests) : Sequel.|(*tests)
      end
    end
  end
end
