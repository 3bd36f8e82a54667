# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Reads a condition aloud: "everyone who is a lead and is in York or Leeds".
      class Sentence
        # Where a test is "has one of several", a name takes the place of a number.
        NAMES = {owners: "colleague", letters: "letter", sequences: "sequence", lists: "list", statuses: "status"}.freeze

        # @param names [Hash] words for numbers: {owners: {1 => "Maren Holt"}, letters: {…}, sequences: {…}, lists: {…}, statuses: {…}}
        def initialize(names: {})
          @names = names
          freeze
        end

        # @return [String]
        def say(node)
          parts = node.is_a?(Nodes::All) ? node.parts : [node]
          return "everyone, #{parts.map { |part| exception(part) }.join(" and ")}" if parts.any? && parts.all? { |part| exception?(part) }

          words = clause(node, outer: true)
          return "everyone" if words.empty?

          words.match?(/\Awho(se)? /) ? "everyone #{words}" : "everyone who #{words}"
        end

        # @return [String] the same without "everyone who", for one part of a tree
        def part(node) = clause(node, outer: true)

        private

        def clause(node, outer: false)
          case node
          when Nodes::All then joined(node.parts, "and", outer)
          when Nodes::Any then node.parts.empty? ? "is nobody" : joined(node.parts, "or", outer)
          when Nodes::Not then negated(node.part)
          when Nodes::FieldTest then field(node)
          when Nodes::ActivityTest then activity(node, :words)
          when Nodes::MembershipTest then membership(node, :words)
          when Nodes::DealsTest then deals(node)
          end
        end

        def joined(parts, word, outer)
          # An exception comes after what it is one from.
          parts = parts.partition { |part| !exception?(part) }.flatten if word == "and"
          said = parts.map { |part| [part, clause(part)] }.reject { |_, words| words.empty? }
          text = said.each_with_index.map { |(part, words), i| i.zero? ? words : follow(part, words, word) }.join
          (outer || parts.size < 2) ? text : "(#{text})"
        end

        def follow(part, words, word) = (word == "and" && exception?(part)) ? " #{exception(part)}" : " #{word} #{words}"

        # "and not (is tagged press)" is said "but not if one is tagged press".
        def exception?(part) = part.is_a?(Nodes::Not) && [Nodes::FieldTest, Nodes::DealsTest].include?(part.part.class)

        def exception(part) = "but not if one #{clause(part.part, outer: true)}"

        def negated(part)
          case part
          when Nodes::ActivityTest then activity(part, :negated)
          when Nodes::MembershipTest then membership(part, :negated)
          else "not (#{clause(part, outer: true)})"
          end
        end

        def field(node)
          phrase = node.field.phrase
          case node.is
          when "one_of" then "#{phrase} #{list(node, "or")}"
          when "all_of" then "#{phrase} #{list(node, "and")}"
          when "empty" then "has no #{label(node.field)}"
          when "yes" then phrase
          else "#{bare(phrase, node)} #{compared(node)}"
          end
        end

        # "whose city is" becomes "whose city", for "contains"; for amounts and days "is" stays.
        def bare(phrase, node) = %w[contains starts_with].include?(node.is) ? phrase.sub(/ (is|in)\z/, "") : phrase

        def compared(node)
          value = node.value
          case node.is
          when "contains" then "contains “#{value}”"
          when "starts_with" then "starts with “#{value}”"
          when "equals" then amount(node.field, value)
          when "more_than" then "more than #{amount(node.field, value)}"
          when "less_than" then "less than #{amount(node.field, value)}"
          when "between" then "between #{value.map { |one| one.is_a?(Date) ? day(one) : amount(node.field, one) }.join(" and ")}"
          when "in_last" then "in the last #{value}"
          when "in_next" then "in the next #{value}"
          when "before" then "before #{day(value)}"
          when "after" then "after #{day(value)}"
          when "on" then "on #{day(value)}"
          when "month_is" then "in #{value.map { |month| Date::MONTHNAMES[month] }.join(" or ")}"
          when "yearly_in_next" then "in the next #{Span.new(value, "days")} of any year"
          when "yearly_in_last" then "in the last #{Span.new(value, "days")} of any year"
          end
        end

        def day(date) = date.strftime("%-d %b %Y")

        def amount(field, value) = Fields::Saying.say(field, value)

        def label(field) = Fields::Field.within_sentence(field.label)

        def list(node, last)
          words = node.value.map { |value| word_for(node.field, value) }
          (words.size > 1) ? "#{words[0..-2].join(", ")} #{last} #{words.last}" : words.first
        end

        def word_for(field, value)
          case field.type
          when :choice, :choices then field.choices.fetch(value, value)
          when :reference then (value == "me") ? "me" : named(:owners, value)
          when :lists then "“#{named(:lists, value)}”"
          else value
          end
        end

        def named(kind, id) = @names.fetch(kind, {}).fetch(id, "#{NAMES.fetch(kind)} #{id}")

        def activity(node, form)
          words = Operators::ACTIVITIES.fetch(node.kind)[form]
          times = (node.at_least > 1) ? " at least #{node.at_least} times" : ""
          link = node.link ? " at the link #{node.link}" : ""
          "#{words} #{what(node, form)}#{link}#{times}#{" in the last #{node.within}" if node.within}"
        end

        def what(node, form)
          places = [
            ("“#{named(:letters, node.letter_id)}”" if node.letter_id),
            ("“#{named(:sequences, node.sequence_id)}”" if node.sequence_id)
          ].compact
          return places.join(" of ") if places.any?

          (node.kind == "had_letter" && form == :negated) ? "letter" : "any letter"
        end

        def membership(node, form)
          words = Operators::MEMBERSHIPS.fetch(node.kind)[form]
          sequence = node.sequence_id ? "“#{named(:sequences, node.sequence_id)}”" : "any sequence"
          status = node.statuses.any? ? " with the status #{node.statuses.map { |key| named(:statuses, key) }.join(" or ")}" : ""
          "#{words} #{sequence}#{status}#{" at step #{node.step}" if node.step}"
        end

        def deals(node)
          many = (node.at_least > 1) ? "at least #{node.at_least} deals" : "a deal"
          where = clause(node.where, outer: true)
          if where.empty?
            "has #{many}"
          else
            "has #{many}#{(node.at_least > 1) ? ", each of which" : " that"} #{where}"
          end
        end
      end
    end
  end
end
