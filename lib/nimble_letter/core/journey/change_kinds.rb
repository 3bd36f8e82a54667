# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What a change step can change, and what it has to be told: the same words as an act on many records, and two more that
      # only make sense within a sequence. The stage is that of the deal a letter would speak of.
      module ChangeKinds
        # Of records, whoever changes them.
        OF_RECORDS = {
          "field" => %w[field value],
          "tag" => %w[names],
          "untag" => %w[names],
          "list" => %w[list_id],
          "unlist" => %w[list_id],
          "owner" => %w[owner_id],
          "standing" => %w[standing]
        }.freeze
        NEEDS = {**OF_RECORDS, "stage" => %w[stage], "status" => %w[status]}.freeze

        # @param what [String]
        # @param to [Hash]
        # @return [String, nil] what is missing or wrong, in words
        def self.wrong(what, to)
          needs = NEEDS[what] or return "A change is one of #{NEEDS.keys.join(", ")}."
          missing = needs.reject { |name| to.is_a?(Hash) && to.key?(name) }
          "To change this, say #{missing.join(" and ")} too." if missing.any?
        end
      end
    end
  end
end
