# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Which operators a field type has, what value each needs, and how each is said. Parser, sentence and screen read it.
      module Operators
        # value: :list (one or more texts), :text, :days (Integer), :date, :none
        TABLE = {
          text: {"one_of" => :list, "contains" => :text, "starts_with" => :text, "empty" => :none},
          choice: {"one_of" => :list, "empty" => :none},
          reference: {"one_of" => :list, "empty" => :none},
          tags: {"one_of" => :list, "empty" => :none},
          flag: {"yes" => :none},
          date: {"in_last_days" => :days, "in_next_days" => :days, "before" => :date, "after" => :date, "empty" => :none}
        }.freeze

        # What people do or get, as conditions name it: the event kind behind it and how it is said.
        ACTIVITIES = {
          "had_letter" => {event: "sent", words: "had", negated: "had no"},
          "opened" => {event: "opened", words: "opened", negated: "has not opened"},
          "clicked" => {event: "clicked", words: "clicked in", negated: "has not clicked in"},
          "replied" => {event: "replied", words: "replied to", negated: "has not replied to"}
        }.freeze

        def self.for(type) = TABLE.fetch(type, {})
      end
    end
  end
end
