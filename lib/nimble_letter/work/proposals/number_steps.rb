# frozen_string_literal: true

module NimbleLetter
  module Work
    # Gives what is new in a proposed plan its number for life at once, so that it can be spoken of; until a plan takes it in it stands
    # outside of every plan, as what was taken out does.
    class NumberSteps
      # @param sequence [Records::Sequence] locked
      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # @param steps [Array<Hash>] see StepInput in the contract
      # @return [Array<Hash>] the same, each step and lane with a number of this sequence
      def call(steps)
        @own = Records::Step.where(sequence_id: @sequence.id).select_map(:id).to_set
        @own_lanes = Records::Lane.where(fork_id: @own.to_a).select_map(:id).to_set
        @numbers = {}
        about(numbered(steps))
      end

      private

      def numbered(steps)
        steps.map do |step|
          id = @own.include?(step["id"]) ? step["id"] : make(step)
          @numbers[step["id"]] = id if step["id"]
          lanes = step["lanes"]&.map { |lane| lane.merge("id" => lane_id(lane, id), "steps" => numbered(lane["steps"] || [])) }
          {**step, "id" => id, **(lanes ? {"lanes" => lanes} : {})}
        end
      end

      # @return [Integer]
      def make(step)
        values = {sequence_id: @sequence.id, kind: step.fetch("kind", "letter"), position: 0, out_at: @moment.now}
        Records::Step.create(**values, **Records::Step.timing_columns(Core::Calendar::Timing.new)).id
      end

      def lane_id(lane, fork_id)
        return lane["id"] if @own_lanes.include?(lane["id"])

        Records::Lane.create(fork_id: fork_id, position: 0, comes_back: true, out_at: @moment.now).id
      end

      # @return [Array<Hash>] with lanes about steps by the numbers these have got
      def about(steps)
        steps.map do |step|
          next step unless step["lanes"]

          lanes = step["lanes"].map do |lane|
            test = lane["test"]
            test = test.merge("step_id" => @numbers.fetch(test["step_id"], test["step_id"])) if test&.[]("step_id")
            lane.merge("test" => test, "steps" => about(lane["steps"]))
          end
          step.merge("lanes" => lanes)
        end
      end
    end
  end
end
