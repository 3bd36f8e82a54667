# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Reads a condition against one record in memory. Agrees with records/condition_sql.rb on every record:
      # an empty field passes no test but "empty", and its negation passes every other.
      class InMemory
        # @param now [Time] UTC
        # @param today [Date] the firm's date at that instant
        # @param me [Integer, nil] who asks
        def initialize(now:, today:, me: nil)
          @now, @today, @me = now, today, me
          freeze
        end

        # @param node [Object] a condition tree
        # @param record [Hash] field keys to values, and Arrays of Hashes: "events" {kind:, at:, by_machine:, letter_id:,
        #   sequence_id:, link:}, "memberships" {sequence_id:, state:, status:, step:, step_id:, been: step ids, lanes:},
        #   "deals" {field key => value}
        def match?(node, record)
          case node
          when Nodes::All then node.parts.all? { |part| match?(part, record) }
          when Nodes::Any then node.parts.any? { |part| match?(part, record) }
          when Nodes::Not then !match?(node.part, record)
          when Nodes::FieldTest then field_matches?(node, record[node.field.key])
          when Nodes::ActivityTest then count(node, record) >= node.at_least
          when Nodes::MembershipTest then record.fetch("memberships", []).any? { |membership| member?(node, membership) }
          when Nodes::DealsTest then deals(node, record) >= node.at_least
          end
        end

        # @return [Integer] how often the activity happened within its time
        def count(node, record)
          kinds = Operators::ACTIVITIES.fetch(node.kind)[:events]
          since = node.within&.instant_before(@now, @today)
          record.fetch("events", []).count { |event| counts?(event, kinds, since, node) }
        end

        # @return [Integer] how many deals fit
        def deals(node, record) = record.fetch("deals", []).count { |deal| match?(node.where, deal) }

        private

        def field_matches?(node, actual)
          return several_match?(node, actual || []) if %i[tags lists choices].include?(node.field.type)

          actual = node.field.fold(actual) if node.field.folded?
          return actual.nil? if node.is == "empty"
          return false if actual.nil?

          case node.field.type
          when :text, :long_text, :link then text_matches?(node, actual)
          when :choice then node.value.include?(actual)
          when :reference then node.value.map { |id| (id == "me") ? @me : id }.include?(actual)
          when :flag then actual == true
          when :number, :money then number_matches?(node, actual)
          when :date then date_matches?(node, actual)
          end
        end

        def text_matches?(node, actual)
          case node.is
          when "one_of" then node.value.any? { |wanted| node.field.fold(wanted) == actual }
          when "contains" then actual.include?(node.field.fold(node.value))
          when "starts_with" then actual.start_with?(node.field.fold(node.value))
          end
        end

        def several_match?(node, actual)
          return actual.empty? if node.is == "empty"

          fold = ->(value) { (node.field.type == :tags) ? Fold.call(value) : value }
          held = actual.map(&fold)
          wanted = node.value.map(&fold)
          (node.is == "all_of") ? wanted.all? { |one| held.include?(one) } : wanted.any? { |one| held.include?(one) }
        end

        def number_matches?(node, actual)
          case node.is
          when "equals" then actual == node.value
          when "more_than" then actual > node.value
          when "less_than" then actual < node.value
          when "between" then actual.between?(*node.value)
          end
        end

        def date_matches?(node, actual)
          case node.is
          when "in_last" then node.value.days_before(@today).cover?(actual)
          when "in_next" then node.value.days_after(@today).cover?(actual)
          when "before" then actual < node.value && !Fields::Yearless.is?(actual)
          when "after" then actual > node.value
          when "on" then actual == node.value
          when "between" then actual.between?(*node.value)
          when "month_is" then node.value.include?(actual.month)
          when "yearly_in_next" then yearly?(Yearly.ranges(@today, node.value), actual)
          when "yearly_in_last" then yearly?(Yearly.ranges(@today - node.value + 1, node.value), actual)
          end
        end

        def yearly?(ranges, actual) = ranges.any? { |range| range.cover?(Yearly.number(actual)) }

        def counts?(event, kinds, since, node)
          kinds.include?(event[:kind]) && !event[:by_machine] && event[:at] <= @now && (since.nil? || event[:at] >= since) &&
            (node.letter_id.nil? || event[:letter_id] == node.letter_id) &&
            (node.sequence_id.nil? || event[:sequence_id] == node.sequence_id) &&
            (node.link.nil? || event[:link] == node.link)
        end

        def member?(node, membership)
          active = membership[:state] == "active"
          (node.kind == "was_in" || active) && (node.sequence_id.nil? || membership[:sequence_id] == node.sequence_id) &&
            (node.statuses.empty? || node.statuses.include?(membership[:status])) &&
            (node.step.nil? || (active && membership[:step] == node.step)) &&
            (node.step_id.nil? || at?(node, membership)) && (node.lane_id.nil? || membership[:lanes].include?(node.lane_id))
        end

        def at?(node, membership) =
          membership[:step_id] == node.step_id || (node.kind == "was_in" && membership[:been].include?(node.step_id))
      end
    end
  end
end
