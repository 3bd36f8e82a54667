# frozen_string_literal: true

module NimbleLetter
  module Core
    # The account from "match" to "would get it". Each person falls through at exactly one reason: the first
    # that fits, in this order. Reasons are conditions, so the database and memory read them alike.
    module Sieve
      # Stage: what is left after its reasons.
      Reason = Struct.new(:key, :stage, :words, :condition)

      # One address twice is not a question about one record, so it has no condition of its own.
      SAME_ADDRESS = "same_address"

      REASONS = [
        Reason.new("no_address", "reachable", "no address", {"field" => "person.email", "is" => "empty"}),
        Reason.new(SAME_ADDRESS, "reachable", "same address as another record", nil),
        Reason.new("do_not_mail", "allowed", "asked not to be written to", {"field" => "person.do_not_mail", "is" => "yes"}),
        Reason.new("address_failed", "allowed", "address failed before", {"field" => "person.address_failed", "is" => "yes"}),
        Reason.new("no_consent", "allowed", "said no to letters", {"field" => "person.consent", "is" => "one_of", "value" => ["no"]})
      ].freeze

      STAGES = {"reachable" => "can be reached once", "allowed" => "would get it"}.freeze

      # What keeps one person from being written to, as far as their own record tells.
      # @param record [Hash{String=>Object}] values by field key
      # @return [Reason, nil]
      def self.reason_for(record)
        # The reasons ask about fields only, so no instant can make a difference.
        reader = Conditions::InMemory.new(now: nil, today: nil)
        parser = Conditions::Parser.new
        REASONS.find { |reason| reason.condition && reader.match?(parser.parse!(reason.condition), record) }
      end

      # @param matching [Integer]
      # @param counts [Hash{String=>Integer}] people per reason
      # @return [Hash] the account: match, reasons and what is left after each stage
      def self.account(matching, counts)
        left = matching
        stages = STAGES.map do |stage, words|
          reasons = REASONS.select { |reason| reason.stage == stage }.map { |reason| {key: reason.key, words: reason.words, count: counts.fetch(reason.key, 0)} }
          left -= reasons.sum { |reason| reason[:count] }
          {key: stage, words: words, reasons: reasons, left: left}
        end
        {matching: matching, stages: stages, would_get_it: left}
      end
    end
  end
end
