# frozen_string_literal: true

module NimbleLetter
  module Work
    # What an act on members makes of where one of them stands, see Standing. Whoever it makes no sense for stays as they are.
    class MovingMember
      # @param kind [String] take_out, pause, go_on, skip_step or move_to
      # @param to [Integer, nil] the step to move to
      def initialize(kind, sequence, moment, to: nil)
        @kind, @moment, @to = kind, moment, to
        @plan = moment.plan_of(sequence.id)
      end

      # @param held [Hash, nil]
      # @return [Hash, nil] the same when nothing changes
      def call(held)
        return held unless held && held["state"] == "active"

        case @kind
        when "take_out" then held.merge("state" => "left", "left_reason" => "taken_out")
        when "pause" then held.merge("paused_at" => held["paused_at"] || now)
        when "go_on" then held.merge("paused_at" => nil)
        when "skip_step" then skip(held)
        else (held["step_id"] == @to) ? held : at(held, @to)
        end
      end

      private

      # Whoever still carries a plan whose step is gone is about to be moved into the one in effect, and past it.
      def skip(held)
        step_id = held["step_id"]
        (step_id && @plan[step_id]) ? at(held, @plan.following(step_id)) : held
      end

      # Counted from now, as if the step before had just been done.
      def at(held, step_id)
        state = step_id ? "active" : "finished"
        held.merge("state" => state, "step_id" => step_id, "base" => now, "begun" => nil, "moved" => true)
      end

      def now = @moment.now.iso8601(6)
    end
  end
end
