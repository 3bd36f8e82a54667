# frozen_string_literal: true

module NimbleLetter
  module Records
    # Reads a condition tree into SQL over `people`. Each test yields true or false and never NULL, so that "but not"
    # means the same as in memory (Core::Conditions::InMemory).
    class ConditionSql
      NEVER = Sequel.lit("FALSE")
      ALWAYS = Sequel.lit("TRUE")

      # @param now [Time] UTC
      # @param today [Date] the firm's
      # @param me [Integer, nil] who asks
      def initialize(now:, today:, me: nil)
        @now, @today, @me = now, today, me
      end

      # @param node [Object] a condition tree
      # @return [Sequel::SQL::Expression]
      def read(node)
        case node
        when Core::Conditions::Nodes::All then group(node, :AND, ALWAYS)
        when Core::Conditions::Nodes::Any then group(node, :OR, NEVER)
        when Core::Conditions::Nodes::Not then Sequel.~(Sequel.expr(read(node.part)))
        when Core::Conditions::Nodes::FieldTest then field(node)
        when Core::Conditions::Nodes::ActivityTest then activity(node)
        end
      end

      private

      def group(node, operator, none)
        parts = node.parts.map { |part| read(part) }
        (parts.size < 2) ? (parts.first || none) : Sequel::SQL::BooleanExpression.new(operator, *parts)
      end

      def field(node)
        return tags(node) if node.field.type == :tags

        column = Sequel[node.field.table][node.field.folded? ? :"#{node.field.column}_fold" : node.field.column]
        (node.field.table == :companies) ? company(node, column) : present_or_empty(node, column)
      end

      # A person without a company has no company fields.
      def company(node, column)
        key = Sequel[:people][:company_id]
        has = ->(test) { Sequel.&(Sequel.~(key => nil), {key => Records.db[:companies].where(test).select(:id)}) }
        (node.is == "empty") ? Sequel.~(has.call(Sequel.~(column => nil))) : has.call(present(node, column))
      end

      def present_or_empty(node, column) = (node.is == "empty") ? {column => nil} : present(node, column)

      def present(node, column) = Sequel.&(Sequel.~(column => nil), test(node, column))

      def test(node, column)
        case node.is
        when "one_of" then one_of(node, column)
        when "contains" then Sequel.function(:locate, Core::Fold.call(node.value), column) > 0
        when "starts_with" then column.like("#{Records.db.dataset.escape_like(Core::Fold.call(node.value))}%")
        when "yes" then {column => true}
        when "in_last_days" then Sequel.&(column > @today - node.value, column <= @today)
        when "in_next_days" then Sequel.&(column >= @today, column < @today + node.value)
        when "before" then column < node.value
        when "after" then column > node.value
        end
      end

      def one_of(node, column)
        values = case node.field.type
        when :text then node.value.map { |value| Core::Fold.call(value) }
        when :reference then node.value.map { |id| (id == "me") ? @me : id }.compact
        else node.value
        end
        values.empty? ? NEVER : {column => values}
      end

      def tags(node)
        worn = Records.db[:people_tags].where(Sequel[:people_tags][:person_id] => Sequel[:people][:id])
        return Sequel.~(worn.select(1).exists) if node.is == "empty"

        folds = node.value.map { |tag| Core::Fold.call(tag) }
        worn.join(:tags, id: Sequel[:people_tags][:tag_id]).where(Sequel[:tags][:name_fold] => folds).select(1).exists
      end

      def activity(node)
        happened = happened(node)
        return happened.select(1).exists if node.at_least == 1

        Sequel.expr(happened.select(Sequel.function(:count).*)) >= node.at_least
      end

      def happened(node)
        event = Sequel[:events]
        events = Records.db[:events].where(event[:person_id] => Sequel[:people][:id], event[:by_machine] => false,
          event[:kind] => Core::Conditions::Operators::ACTIVITIES.fetch(node.kind)[:event]).where(event[:occurred_at] <= @now)
        events = events.where(event[:occurred_at] >= @now - node.within_days * 86_400) if node.within_days
        events = events.where(event[:letter_id] => node.letter_id) if node.letter_id
        events = events.where(event[:sequence_id] => node.sequence_id) if node.sequence_id
        events
      end
    end
  end
end
