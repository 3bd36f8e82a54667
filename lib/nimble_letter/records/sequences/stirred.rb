# frozen_string_literal: true

module NimbleLetter
  module Records
    # Something has happened to a person of which the live rules have not heard yet. The database writes these rows (migration 019)
    # while some rule listens; whoever has told the rules deletes them.
    class Stirred < Sequel::Model(:stirred)
      # In `what`: a rule was switched on for people whom it was true of already. It concerns that rule alone (`about`).
      RULE = "rule"

      # @param people [Sequel::Dataset] of people whom it is true of already
      # @param rule [JoinRule] that begins to listen
      def self.begin_with(people, rule)
        dataset.insert(%i[person_id what about], people.select(Sequel[:people][:id], Sequel.lit("?", RULE), Sequel.lit("?", rule.id)))
      end

      # @return [Boolean] whether that rule is to hear of it
      def concerns?(rule) = what != RULE || about == rule.id

      # What the block puts on people they are not said to get: it was theirs before, or another's who is the same by now.
      def self.quietly
        db.synchronize do
          db.run("SET @nimble_quiet = 1")
          yield
        ensure
          db.run("SET @nimble_quiet = NULL")
        end
      end
    end
  end
end
