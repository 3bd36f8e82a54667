# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # Where a member stands: before the step `step_id` (nil: behind the last one). With what is known, enough to reckon the same
      # time again.
      #
      # base: when the step before was done, or they joined; joined: when they joined; begun: when the step was begun whose outcome
      # is waited for (a task), or nil; spent: numbers of happenings that took a lane already and mean nothing more.
      Place = Struct.new(:step_id, :base, :joined, :begun, :spent, keyword_init: true) do
        def initialize(step_id:, base:, joined: base, begun: nil, spent: [])
          super
          freeze
        end

        # @return [Place] before another step, to which they came then
        def on(step_id, base)
          other = dup
          other.step_id, other.base, other.begun = step_id, base, nil
          other.freeze
        end

        def with(**changes)
          other = dup
          changes.each { |name, value| other[name] = value }
          other.freeze
        end
      end
    end
  end
end
