# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Which operators a field type has, what value each needs, and how each is said. Parser, sentence and screen read it.
      module Operators
        WORDS = {"one_of" => :list, "contains" => :text, "starts_with" => :text, "empty" => :none}.freeze
        AMOUNT = {"equals" => :number, "more_than" => :number, "less_than" => :number, "between" => :numbers, "empty" => :none}.freeze
        SEVERAL = {"one_of" => :list, "all_of" => :list, "empty" => :none}.freeze
        ONE = {"one_of" => :list, "empty" => :none}.freeze

        # value: :list (one or more), :text, :number, :numbers (two), :span (amount and unit), :date, :dates (two),
        # :days (Integer), :months (1 to 12), :none
        TABLE = {
          text: WORDS,
          long_text: WORDS.slice("contains", "empty"),
          link: WORDS.slice("contains", "starts_with", "empty"),
          choice: ONE,
          reference: ONE,
          choices: SEVERAL,
          tags: SEVERAL,
          lists: SEVERAL,
          flag: {"yes" => :none},
          number: AMOUNT,
          money: AMOUNT,
          date: {"in_last" => :span, "in_next" => :span, "before" => :date, "after" => :date, "on" => :date, "between" => :dates,
                 "yearly_in_next" => :days, "yearly_in_last" => :days, "month_is" => :months, "empty" => :none}
        }.freeze

        # What people do or get, as conditions name it: the event kinds behind it and how it is said.
        ACTIVITIES = {
          "had_letter" => {
            events: %w[sent],
            words: "had",
            negated: "had no"
          },
          "opened" => {
            events: %w[opened],
            words: "opened",
            negated: "has not opened"
          },
          "clicked" => {
            events: %w[clicked],
            words: "clicked in",
            negated: "has not clicked in"
          },
          "replied" => {
            events: %w[replied],
            words: "replied to",
            negated: "has not replied to"
          },
          "bounced" => {
            events: %w[bounced refused], # sent back, or turned away at the door
            words: "was not reached by",
            negated: "was reached by"
          },
          "unsubscribed" => {
            events: %w[unsubscribed],
            words: "asked for no more letters after",
            negated: "did not ask for no more letters after"
          },
          "converted" => {
            events: %w[converted],
            words: "converted after",
            negated: "has not converted after"
          }
        }.freeze

        # in: a member now; was_in: a member now or earlier. At a step: the next letter of an active member is that one.
        MEMBERSHIPS = {"in" => {words: "is in", negated: "is not in"}, "was_in" => {words: "was ever in", negated: "was never in"}}.freeze

        def self.for(type) = TABLE.fetch(type, {})
      end
    end
  end
end
