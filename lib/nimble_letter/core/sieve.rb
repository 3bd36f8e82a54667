# frozen_string_literal: true

module NimbleLetter
  module Core
    # The account from "match" to "would get it". Each person falls through at exactly one reason: the first
    # that fits, in this order. Reasons are conditions, so the database and memory read them alike.
    module Sieve
      # Stage: what is left after its reasons. Lasting: it is a trait of the record, whatever the sequence and the week.
      Reason = Struct.new(:key, :stage, :words, :condition, :lasting)

      # A "no" belongs to the address: what one record says of these holds for every record with its address, in the bin or not.
      SAYS_NO = {"person.do_not_mail" => [true], "person.address_failed" => [true], "person.consent" => ["no"]}.freeze

      # Marks of a record that follow from other records with its address, or from the do-not-mail list.
      FOLLOWING = %w[person.address_blocked person.no_at_address].freeze
      # All marks by which nothing is sent. Files can add them and never take one away.
      MARKS = (SAYS_NO.keys - ["person.consent"] + FOLLOWING).freeze

      # One address twice is not a question about one record, so it has no condition of its own.
      SAME_ADDRESS = "same_address"
      ALREADY_IN = "already_in"
      WRITTEN_ENOUGH = "written_enough"

      LASTING = [
        Reason.new("no_address", "reachable", "no address", {"field" => "person.email", "is" => "empty"}, true),
        Reason.new(SAME_ADDRESS, "reachable", "same address as another record", nil, false),
        Reason.new("do_not_mail", "allowed", "asked not to be written to", {"field" => "person.do_not_mail", "is" => "yes"}, true),
        Reason.new("address_blocked", "allowed", "on the do-not-mail list", {"field" => "person.address_blocked", "is" => "yes"}, true),
        Reason.new("address_failed", "allowed", "address failed before", {"field" => "person.address_failed", "is" => "yes"}, true),
        Reason.new(
          "no_consent",
          "allowed",
          "said no to letters",
          {"field" => "person.consent", "is" => "one_of", "value" => ["no"]},
          true
        ),
        Reason.new(
          "no_at_address",
          "allowed",
          "said no on another record",
          {"field" => "person.no_at_address", "is" => "yes"},
          true
        )
      ].freeze

      # The fields of a person that the lasting ones ask about.
      ASKED = LASTING.select(&:lasting).map { |reason| reason.condition.fetch("field") }.uniq.freeze

      STAGES = {"reachable" => "can be reached once", "allowed" => "may be written to", "fitting" => "would get it"}.freeze

      # How many letters one person may have from us in so many days, over all sequences.
      Guard = Struct.new(:letters, :days) do
        def words = "had #{letters} #{(letters == 1) ? "letter" : "letters"} in the last #{Conditions::Span.new(days, "days")} already"

        def condition = {"activity" => "had_letter", "at_least" => letters, "within" => {"amount" => days, "unit" => "days"}}
      end

      # @param guard [Guard, nil]
      # @param sequence_id [Integer, nil] the sequence people would join
      # @return [Array<Reason>] in the order they are asked
      def self.reasons(guard: nil, sequence_id: nil)
        fitting = []
        fitting << Reason.new(WRITTEN_ENOUGH, "fitting", guard.words, guard.condition, false) if guard
        if sequence_id
          fitting << Reason.new(
            ALREADY_IN,
            "fitting",
            "already in this sequence",
            {"membership" => "in", "sequence_id" => sequence_id},
            false
          )
        end
        LASTING + fitting
      end

      # A condition for those of one part, as far as reasons are conditions: one address twice is none.
      # @param part [String] "matching", a reason's key, a stage's key or "would_get_it"
      # @param meant [Hash] the condition of those who match
      # @return [Hash]
      def self.condition(part, meant, reasons)
        return meant if part == "matching"

        own = reasons.find { |reason| reason.key == part }
        stages = STAGES.keys.take(STAGES.keys.index(part)&.succ || STAGES.size)
        passed = own ? reasons.take_while { |reason| reason != own } : reasons.select { |reason| stages.include?(reason.stage) }
        {"all" => [meant, *passed.filter_map(&:condition).map { |test| {"not" => test} }, own&.condition].compact}
      end

      # @param record [Hash{String=>Object}] values by field key
      # @return [Boolean] whether this record itself says no
      def self.says_no?(record) = SAYS_NO.any? { |key, nos| nos.include?(record[key]) }

      # @param values [Hash{String=>Object}] what a record is to hold, by field key
      # @param held [Hash{String=>Object}] what it holds
      # @return [Array<String>] keys by which a "no" of this record would end; only an act with a name and a reason may do that
      def self.ending_no(values, held)
        SAYS_NO.filter_map { |key, nos| key if values.key?(key) && nos.include?(held[key]) && !nos.include?(values[key]) }
      end

      # What of some values may reach a record, by a file, an act on many or a merge: nothing that would end its "no", or tell another
      # story of it.
      # @param values [Hash{String=>Object}] by field key
      # @param held [Hash{String=>Object}] what the record holds
      # @return [Hash{String=>Object}]
      def self.keeping_no(values, held)
        turned = ending_no(values, held)
        turned |= ["person.consent"] if held["person.consent"] == "no" && values.key?("person.consent")
        values.except(*turned, *turned.flat_map { |key| [Fields::GoingWith::DAYS[key], Fields::GoingWith::HOW[key]] })
      end

      # What keeps one person from being written to.
      # @param record [Hash{String=>Object}] values by field key
      # @return [Reason, nil]
      def self.reason_for(record)
        # These reasons ask about fields only, so no instant can make a difference.
        reader = Conditions::InMemory.new(now: nil, today: nil)
        parsed_lasting.find { |_, tree| reader.match?(tree, record) }&.first
      end

      def self.parsed_lasting
        @parsed_lasting ||= LASTING.select(&:lasting).map { |reason| [reason, Conditions::Parser.new.parse!(reason.condition)] }.freeze
      end
      private_class_method :parsed_lasting

      # @param reasons [Array<Reason>]
      # @param matching [Integer]
      # @param counts [Hash{String=>Integer}] people per reason
      # @return [Hash] the account: match, reasons and what is left after each stage
      def self.account(reasons, matching, counts)
        left = matching
        stages = STAGES.map do |stage, words|
          dropped =
            reasons
              .select { |reason| reason.stage == stage }
              .map { |reason| {key: reason.key, words: reason.words, count: counts.fetch(reason.key, 0)} }
          left -= dropped.sum { |reason| reason[:count] }
          {key: stage, words: words, reasons: dropped, left: left}
        end
        {matching: matching, stages: stages, would_get_it: left}
      end
    end
  end
end
