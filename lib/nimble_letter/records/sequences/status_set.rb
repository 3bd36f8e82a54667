# frozen_string_literal: true

module NimbleLetter
  module Records
    # What a sequence says of its members, in the firm's own words.
    class StatusSet < Sequel::Model(:status_sets)
      extend JsonColumn
      include Versioned

      json_column :statuses

      # @return [StatusSet] for a sequence that was not told which
      def self.standard = order(:id).first

      # @return [Core::Statuses::Ladder]
      def ladder = @ladder ||= Core::Statuses::StatusSetJson.read(statuses)

      # @return [Hash{Integer=>Core::Statuses::Ladder}] by sequence; those that are not named have the first
      def self.ladders(sequence_ids)
        sets = all.to_h { |set| [set.id, set.ladder] }
        standard = standard()&.ladder || Core::Statuses::Ladder.new
        of = Sequence.where(id: sequence_ids.uniq).select_hash(:id, :status_set_id)
        sequence_ids.uniq.to_h { |id| [id, sets.fetch(of[id], standard)] }
      end
    end
  end
end
