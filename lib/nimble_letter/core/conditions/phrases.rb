# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # How a test on a field is said, up to its value: "is in", "whose city contains", "is not tagged". Sentences are put together
      # from these, on the page and off it. What does not say itself whom it is about ("whose", "at whose") follows a "who".
      module Phrases
        PRONOUN = /\A(?:whose|at whose|for whom)\b/

        # What stands between a phrase and its value.
        LEADS = {
          "more_than" => " more than",
          "less_than" => " less than",
          "between" => " between",
          "in_last" => " in the last",
          "in_next" => " in the next",
          "before" => " before",
          "after" => " after",
          "on" => " on",
          "month_is" => " in"
        }.freeze
        # A verb and how it is denied; the first that is found.
        DENIED = [
          [/\bsomebody said\b/, "nobody said"],
          [/\b(is|was|are)\b/, "\\1 not"],
          [/\bcomes round\b/, "does not come round"],
          [/\bcontains\b/, "does not contain"],
          [/\bstarts\b/, "does not start"],
          [/\b(live|read|see)s\b/, "does not \\1"],
          [/\basked\b/, "did not ask"],
          [/\bfailed\b/, "did not fail"],
          [/\bchanged\b/, "did not change"]
        ].freeze

        class << self
          # @param field [Fields::Field]
          # @param is [String] operator
          # @return [String]
          def of(field, is)
            case is
            when "contains" then "whose #{field.noun} contains"
            when "starts_with" then "whose #{field.noun} starts with"
            when "empty" then field.quoted? ? "whose #{field.noun} is empty" : "has no #{of_whom(field)}"
            when "yearly_in_next" then "whose #{field.noun} comes round in the next"
            when "yearly_in_last" then "whose #{field.noun} came round in the last"
            else "#{field.phrase}#{LEADS[is]}"
            end
          end

          # @return [String] that it is not so
          def denied(field, is)
            return "has #{article(of_whom(field))}" if is == "empty" && !field.quoted?
            return "whose #{field.noun} did not come round in the last" if is == "yearly_in_last"

            words = of(field, is)
            pattern, other = DENIED.find { |one, _| words.match?(one) }
            raise ArgumentError, "nobody knows how to deny #{words.inspect}" unless pattern

            words.sub(pattern, other)
          end

          # @return [Boolean] whether "who" has to stand in front
          def who?(words) = !words.match?(PRONOUN)

          # @return [Hash{String=>Hash}] words and denied by operator, as the page puts sentences together
          def all(field)
            Operators.for(field.type).keys.to_h { |is| [is, {words: of(field, is), denied: denied(field, is)}] }
          end

          private

          # "has no city", "has no company website".
          def of_whom(field) = (field.key == "company.name") ? "company" : field.noun.sub("company’s", "company")

          def article(noun) = "#{noun.match?(/\A[aeio]/i) ? "an" : "a"} #{noun}"
        end
      end
    end
  end
end
