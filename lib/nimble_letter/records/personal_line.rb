# frozen_string_literal: true

module NimbleLetter
  module Records
    # A line of one's own in one person's letter of one step.
    class PersonalLine < Sequel::Model(:personal_lines)
      # @return [Hash{Integer=>String}] lines of a step by person
      def self.of_step(step_id, person_ids = nil)
        lines = where(step_id: step_id)
        (person_ids ? lines.where(person_id: person_ids) : lines).select_hash(:person_id, :line)
      end
    end
  end
end
