# frozen_string_literal: true

module NimbleLetter
  module Records
    # A value put into one person's letter of one step, and nowhere else.
    class LetterFill < Sequel::Model(:letter_fills)
      extend OfMembership

      # @return [Hash{Integer=>Hash{String=>String}}] values by person and field key
      def self.of_step(step_id, person_ids = nil)
        current(step_id, person_ids).group_by(&:person_id).transform_values { |all| all.to_h { |fill| [fill.field, fill.value] } }
      end
    end
  end
end
