# frozen_string_literal: true

module NimbleLetter
  module Records
    # A line of one's own in one person's letter of one step.
    class PersonalLine < Sequel::Model(:personal_lines)
      extend OfMembership

      # @return [Core::Letters::Merge::Line]
      def to_core = Core::Letters::Merge::Line.new(line, after)

      # @return [Hash{Integer=>Core::Letters::Merge::Line}] lines of a step by person
      def self.of_step(step_id, person_ids = nil)
        current(step_id, person_ids).to_h { |line| [line.person_id, line.to_core] }
      end
    end
  end
end
