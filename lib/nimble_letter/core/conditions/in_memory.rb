# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Reads a condition against one record in memory. Agrees with records/condition_sql.rb on every record:
      # an empty field passes no test but "empty", and its negation passes every other.
      class InMemory
        SECONDS_A_DAY = 86_400

        # @param now [Time] UTC
        # @param today [Date] the firm's date at that instant
        # @param me [Integer, nil] who asks
        def initialize(now:, today:, me: nil)
          @now, @today, @me = now, today, me
          freeze
        end

        # @param node [Object] a condition tree
        # @param record [Hash] field keys to values, and "events": Array of {kind:, at:, by_machine:, letter_id:, sequence_id:}
        def match?(node, record)
          case node
          when Nodes::All then node.parts.all? { |part| match?(part, record) }
          when Nodes::Any then node.parts.any? { |part| match?(part, record) }
          when Nodes::Not then !match?(node.part, record)
          when Nodes::FieldTest then field_matches?(node, record[node.field.key])
          when Nodes::ActivityTest then activity_matches?(node, record.fetch("events", []))
          end
        end

        private

        def field_matches?(node, actual)
          return tags_match?(node, actual || []) if node.field.type == :tags

          actual = Fold.call(actual) if node.field.folded?
          return actual.nil? if node.is == "empty"
          return false if actual.nil?

          case node.field.type
          when :text then text_matches?(node, actual)
          when :choice then node.value.include?(actual)
          when :reference then node.value.map { |id| (id == "me") ? @me : id }.include?(actual)
          when :flag then actual == true
          when :date then date_matches?(node, actual)
          end
        end

        def text_matches?(node, actual)
          case node.is
          when "one_of" then node.value.any? { |wanted| Fold.call(wanted) == actual }
          when "contains" then actual.include?(Fold.call(node.value))
          when "starts_with" then actual.start_with?(Fold.call(node.value))
          end
        end

        def tags_match?(node, tags)
          return tags.empty? if node.is == "empty"

          folded = tags.map { |tag| Fold.call(tag) }
          node.value.any? { |wanted| folded.include?(Fold.call(wanted)) }
        end

        def date_matches?(node, actual)
          case node.is
          when "in_last_days" then actual > @today - node.value && actual <= @today
          when "in_next_days" then actual >= @today && actual < @today + node.value
          when "before" then actual < node.value
          when "after" then actual > node.value
          end
        end

        def activity_matches?(node, events)
          kind = Operators::ACTIVITIES.fetch(node.kind)[:event]
          since = node.within_days && @now - node.within_days * SECONDS_A_DAY
          events.count { |event| counts?(event, kind, since, node) } >= node.at_least
        end

        def counts?(event, kind, since, node)
          event[:kind] == kind && !event[:by_machine] && event[:at] <= @now && (since.nil? || event[:at] >= since) &&
            (node.letter_id.nil? || event[:letter_id] == node.letter_id) &&
            (node.sequence_id.nil? || event[:sequence_id] == node.sequence_id)
        end
      end
    end
  end
end
