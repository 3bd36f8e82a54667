# frozen_string_literal: true

require "set"

module NimbleLetter
  module Core
    module Journey
      # Which steps somebody can come to at all, as the conditions hold now: whatever they may do, and whatever others do.
      module Reach
        # @param plan [Plan]
        # @param known [Known] with an answer to each of the plan's conditions
        # @return [Set<Integer>] ids of steps that would be done for them
        def self.of(plan, known) = steps(plan.steps, known, Set.new).first

        # @return [Array(Set<Integer>, Boolean)] with those of a row, and whether anybody comes behind it
        def self.steps(steps, known, reached)
          steps.each do |step|
            if step.is_a?(Steps::Fork)
              reached << step.id
              return [reached, false] unless lanes(step, known, reached)
            elsif step.only_for.nil? || known.holds?(step.only_for)
              reached << step.id
            end
          end
          [reached, true]
        end
        private_class_method :steps

        # @return [Boolean] whether anybody comes behind the fork
        def self.lanes(fork, known, reached)
          behind = false
          rest = fork.lanes.select { |lane| lane.test.nil? }
          fork.lanes.reject { |lane| lane.test.nil? }.each do |lane|
            holds = lane.test.is_a?(Steps::Holds)
            next if holds && !known.holds?(lane.test.condition)

            behind |= lane(lane, known, reached)
            # At the limit at the latest it fits, so that no lane below is taken.
            return behind if holds
          end
          rest.empty? || lane(rest.first, known, reached) | behind
        end
        private_class_method :lanes

        def self.lane(lane, known, reached) = steps(lane.steps, known, reached).last && lane.comes_back
        private_class_method :lane
      end
    end
  end
end
