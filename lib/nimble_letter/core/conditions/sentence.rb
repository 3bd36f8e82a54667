# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Reads a condition aloud: "everyone who is a lead and is in York or Leeds".
      class Sentence
        # @param names [Hash] words for numbers: {owners: {1 => "Maren Holt"}, letters: {…}, sequences: {…}}
        def initialize(names: {})
          @names = names
          freeze
        end

        # @return [String]
        def say(node)
          words = clause(node, outer: true)
          return "everyone" if words.empty?

          words.start_with?("whose ") ? "everyone #{words}" : "everyone who #{words}"
        end

        private

        def clause(node, outer: false)
          case node
          when Nodes::All then joined(node.parts, "and", outer)
          when Nodes::Any then node.parts.empty? ? "is nobody" : joined(node.parts, "or", outer)
          when Nodes::Not then negated(node.part)
          when Nodes::FieldTest then field(node)
          when Nodes::ActivityTest then activity(node, :words)
          end
        end

        def joined(parts, word, outer)
          text = parts.map { |part| clause(part) }.reject(&:empty?).join(" #{word} ")
          (outer || parts.size < 2) ? text : "(#{text})"
        end

        def negated(part)
          part.is_a?(Nodes::ActivityTest) ? activity(part, :negated) : "not (#{clause(part)})"
        end

        def field(node)
          phrase = node.field.phrase
          case node.is
          when "one_of" then "#{phrase} #{list(node)}"
          when "contains" then "#{phrase.sub(/ (is|in)\z/, "")} contains “#{node.value}”"
          when "starts_with" then "#{phrase.sub(/ (is|in)\z/, "")} starts with “#{node.value}”"
          when "empty" then "has no #{node.field.label.downcase}"
          when "yes" then phrase
          when "in_last_days" then "#{phrase} in the last #{days(node.value)}"
          when "in_next_days" then "#{phrase} in the next #{days(node.value)}"
          when "before" then "#{phrase} before #{node.value.strftime("%-d %b %Y")}"
          when "after" then "#{phrase} after #{node.value.strftime("%-d %b %Y")}"
          end
        end

        def list(node)
          words = node.value.map { |value| word_for(node.field, value) }
          (words.size > 1) ? "#{words[0..-2].join(", ")} or #{words.last}" : words.first
        end

        def word_for(field, value)
          return field.choices.fetch(value, value) if field.type == :choice
          return value unless field.type == :reference

          (value == "me") ? "me" : @names.fetch(:owners, {}).fetch(value, "colleague #{value}")
        end

        def activity(node, form)
          words = Operators::ACTIVITIES.fetch(node.kind)[form]
          times = (node.at_least > 1) ? " at least #{node.at_least} times" : ""
          within = node.within_days ? " in the last #{days(node.within_days)}" : ""
          "#{words} #{what(node, form)}#{times}#{within}"
        end

        def what(node, form)
          return "“#{@names.fetch(:letters, {}).fetch(node.letter_id, "letter #{node.letter_id}")}”" if node.letter_id
          return "“#{@names.fetch(:sequences, {}).fetch(node.sequence_id, "sequence #{node.sequence_id}")}”" if node.sequence_id

          (node.kind == "had_letter" && form == :negated) ? "letter" : "any letter"
        end

        def days(count) = (count == 1) ? "day" : "#{count} days"
      end
    end
  end
end
