# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What a later plan means for somebody who is on their way through one, by the steps that lie ahead in each if they do nothing.
      module Difference
        # In this order: a person is counted once.
        KINDS = %w[lane_gone fewer more instead later sooner other_words untouched].freeze
        # What moves by less is not called so.
        LEAST_SECONDS = 60

        # @param before [Hash{Integer=>Time}] by step, in the order of time
        # @param after [Hash{Integer=>Time}]
        # @param reworded [Boolean] whether a letter that they will or may get is in new words
        # @return [String] of KINDS, but for lane_gone
        def self.between(before, after, reworded: false)
          return "fewer" if after.size < before.size
          return "more" if after.size > before.size
          return "instead" unless before.keys.all? { |id| after.key?(id) }

          moved = before.keys.find { |id| (before[id] - after[id]).abs >= LEAST_SECONDS }
          return (after[moved] > before[moved]) ? "later" : "sooner" if moved

          reworded ? "other_words" : "untouched"
        end

        # @param old [Plan]
        # @param new [Plan]
        # @param step_id [Integer, nil] before which they stand in the old one
        def self.lane_gone?(old, new, step_id)
          leading = step_id && old.leading(step_id)
          leading = old.leading(leading) while leading.is_a?(Integer)
          leading.is_a?(Steps::Lane) && new.lane(leading.id).nil?
        end
      end
    end
  end
end
