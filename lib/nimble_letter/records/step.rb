# frozen_string_literal: true

module NimbleLetter
  module Records
    # A letter step of a sequence and its timing.
    class Step < Sequel::Model(:steps)
      extend JsonColumn

      json_column :other

      many_to_one :sequence
      many_to_one :letter

      # other: nil, or {"what" => "subject", "subject" => document} or {"what" => "letter", "letter_id" => Integer}, and when one
      # may be called the better: "at_least" letters of each, "after_hours" since the last went out
      TIMING = %i[amount unit from_minute to_minute zone].freeze

      # @param version [String, nil] "a" or "b"
      # @return [Letter] what members with that version get
      def letter_of(version)
        return letter unless version == "b" && other && other["what"] == "letter"

        Letter[other["letter_id"]] || letter
      end

      # @return [Hash, nil] the other subject of a member with that version
      def subject_of(version) = ((version == "b" && other && other["what"] == "subject") ? other["subject"] : nil)

      def timing = Core::Calendar::Timing.new(**values.slice(*TIMING))

      def to_core = Core::Journey::Step.new(id: id, letter_id: letter_id, timing: timing)
    end
  end
end
