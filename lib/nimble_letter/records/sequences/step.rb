# frozen_string_literal: true

module NimbleLetter
  module Records
    # A letter step of a sequence and its timing.
    class Step < Sequel::Model(:steps)
      extend JsonColumn

      json_column :other

      many_to_one :sequence
      many_to_one :letter

      dataset_module do
        # Those that send one of these letters, as their own or as the other of two versions.
        def sending(letter_ids) =
          where(Sequel.|({letter_id: letter_ids}, {Sequel.function(:json_value, :other, "$.letter_id") => letter_ids}))
      end

      # other: nil, or {"what" => "subject", "subject" => document} or {"what" => "letter", "letter_id" => Integer}, and when one
      # may be called the better: "at_least" letters of each, "after_hours" since the last went out
      TIMING = %i[amount unit from_minute to_minute zone].freeze

      # @param version [String, nil] "a" or "b"
      # @return [Letter] what members with that version get
      def letter_of(version)
        return letter unless version == "b" && other && other["what"] == "letter"

        Letter[other["letter_id"]] || letter
      end

      # @return [Array<Integer>] numbers of the letters it sends
      def letter_ids = [letter_id, other&.[]("letter_id")].compact

      # @return [Hash, nil] the other subject of a member with that version
      def subject_of(version) = ((version == "b" && other && other["what"] == "subject") ? other["subject"] : nil)

      def timing = Core::Calendar::Timing.new(**values.slice(*TIMING))

      def to_core = Core::Journey::Steps::Letter.new(id: id, letter_id: letter_id, timing: timing)
    end
  end
end
