# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Reads a condition aloud: "everyone who is a lead and is in York or Leeds".
      class Sentence
        # Where a test is "has one of several", a name takes the place of a number.
        NAMES = {owners: "colleague", letters: "letter", sequences: "sequence", lists: "list", statuses: "status", steps: "step",
                 lanes: "lane"}.freeze

        # @param names [Hash] words for numbers: {owners: {1 => "Maren Holt"}, letters: {…}, sequences: {…}, lists: {…}, statuses: {…}}
        # @param pronoun [String, nil] what stands before a part that does not say itself whom it is about
        def initialize(names: {}, pronoun: "who")
          @names, @pronoun = names, pronoun
          freeze
        end

        # @return [String]
        def say(node)
          parts = parts(node)
          return "everyone" if parts.empty?

          said, exceptions = parts.partition { |part| !exception?(part) }
          # Without anything that it is one from, an exception is simply not so.
          said, exceptions = parts, [] if said.empty?
          [strung(said, "and", first: "everyone "), *exceptions.each_with_index.map { |part, i| except(part, i.zero?) }].join
        end

        # @return [String] the same without "everyone who", for one part of a tree
        def part(node) = strung([node], "and", first: "").delete_prefix("who ")

        # @return [String] what is asked about deals, without anybody who has them
        def of_deals(node) = strung(node.is_a?(Nodes::All) ? node.parts : [node], "and", first: "")

        private

        def parts(node)
          case node
          when Nodes::All then node.parts
          when Nodes::Not
            any = node.part.is_a?(Nodes::Any) && node.part.parts.any?
            any ? node.part.parts.map { |part| opposite(part) } : [node]
          else [node]
          end
        end

        # "who is a lead and is in York, whose birthday …": each part says whom it is about, unless it is the one before's "who".
        def strung(parts, word, first:)
          before = nil
          parts.each_with_index.map do |part, i|
            words = clause(part)
            pronoun = (words.start_with?("(") || !Phrases.who?(words)) ? nil : @pronoun
            lead = i.zero? ? first : " #{word} "
            said = (pronoun && !(i.positive? && before)) ? "#{lead}#{pronoun} #{words}" : "#{lead}#{words}"
            before = pronoun
            said
          end.join
        end

        def clause(node)
          case node
          when Nodes::All, Nodes::Any then group(node)
          when Nodes::Not then negated(node.part)
          when Nodes::FieldTest then field(node, Phrases.of(node.field, node.is))
          when Nodes::ActivityTest then activity(node, :words)
          when Nodes::MembershipTest then membership(node, :words)
          when Nodes::DealsTest then deals(node)
          end
        end

        def group(node)
          return node.is_a?(Nodes::All) ? "is anybody" : "is nobody" if node.parts.empty?
          return clause(node.parts.first) if node.parts.one?

          "(#{strung(node.parts, node.is_a?(Nodes::All) ? "and" : "or", first: "")})"
        end

        # What is not so of several is said of each (De Morgan 1847).
        def negated(part)
          case part
          when Nodes::All then group(Nodes::Any.new(parts: part.parts.map { |one| opposite(one) }))
          when Nodes::Any then group(Nodes::All.new(parts: part.parts.map { |one| opposite(one) }))
          when Nodes::Not then clause(part.part)
          when Nodes::FieldTest then field(part, Phrases.denied(part.field, part.is))
          when Nodes::ActivityTest then activity(part, :negated)
          when Nodes::MembershipTest then membership(part, :negated)
          when Nodes::DealsTest then deals(part, denied: true)
          end
        end

        def opposite(node) = node.is_a?(Nodes::Not) ? node.part : Nodes::Not.new(part: node)

        # "and not (is tagged press)" is said "except anyone who is tagged press".
        def exception?(part) = part.is_a?(Nodes::Not) && [Nodes::FieldTest, Nodes::DealsTest].include?(part.part.class)

        def except(part, first) = strung([part.part], "and", first: first ? ", except anyone " : " or anyone ")

        def field(node, words)
          value = value(node)
          value ? "#{words} #{value}" : words
        end

        def value(node)
          value = node.value
          case node.is
          when "one_of" then list(node, "or")
          when "all_of" then list(node, "and")
          when "contains", "starts_with" then "“#{value}”"
          when "equals", "more_than", "less_than" then amount(node.field, value)
          when "between" then value.map { |one| one.is_a?(Date) ? day(one) : amount(node.field, one) }.join(" and ")
          when "in_last", "in_next" then value.to_s
          when "before", "after", "on" then day(value)
          when "month_is" then value.map { |month| Date::MONTHNAMES[month] }.join(" or ")
          when "yearly_in_next", "yearly_in_last" then Span.new(value, "days").to_s
          end
        end

        def day(date) = date.strftime("%-d %b %Y")

        def amount(field, value) = Fields::Saying.say(field, value)

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
          step = node.step || (named(:steps, node.step_id) if node.step_id)
          lane = node.lane_id ? " in the lane “#{named(:lanes, node.lane_id)}”" : ""
          "#{words} #{sequence}#{status}#{" at step #{step}" if step}#{lane}"
        end

        def deals(node, denied: false)
          many = if node.at_least > 1 then denied ? "fewer than #{node.at_least} deals" : "at least #{node.at_least} deals"
          else denied ? "no deal" : "a deal"
          end
          return "has #{many}" if node.where.is_a?(Nodes::All) && node.where.parts.empty?

          words = self.class.new(names: @names, pronoun: nil).of_deals(node.where)
          # Of deals one says "that" and "whose", of several "each of which".
          which = (node.at_least > 1) ? ", each of which " : " that "
          "has #{many}#{(Phrases.who?(words) && !words.start_with?("(whose")) ? which : " "}#{words}"
        end
      end
    end
  end
end
