# frozen_string_literal: true

module NimbleLetter
  module Records
    # A letter step of a sequence and its timing.
    class Step < Sequel::Model(:steps)
      many_to_one :sequence
      many_to_one :letter

      TIMING = %i[amount unit from_minute to_minute zone].freeze

      def timing = Core::Calendar::Timing.new(**values.slice(*TIMING))

      def to_core = Core::Journey::Step.new(id: id, letter_id: letter_id, timing: timing)
    end
  end
end
