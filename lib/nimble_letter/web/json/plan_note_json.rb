# frozen_string_literal: true

module NimbleLetter
  module Web
    # A note in the margin of a plan, as the contract has it.
    module PlanNoteJson
      # @return [Hash]
      def self.write(note) = {**note.values.slice(:id, :step_id, :text, :version, :updated_at), by: note.account&.name}
    end
  end
end
