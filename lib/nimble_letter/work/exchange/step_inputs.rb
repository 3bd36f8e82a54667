# frozen_string_literal: true

module NimbleLetter
  module Work
    # The plan of a sequence as it is sent back over the API, to be laid out elsewhere.
    module StepInputs
      # @param sequence [Records::Sequence]
      # @return [Array<Hash>] see StepInput in the contract
      def self.of(sequence)
        sequence.tree { |step| (step.kind == "fork") ? {} : timed(step) }.map { |step| plain(step) }
      end

      # @return [Array<Hash>] the same under numbers that are new, lanes still about the same steps
      def self.anew(steps)
        steps.map do |step|
          lanes = step["lanes"]&.map do |lane|
            test = lane["test"]
            test = test.merge("step_id" => -test["step_id"].abs) if test&.[]("step_id").is_a?(Integer)
            lane.except("id").merge("test" => test, "steps" => anew(lane["steps"] || []))
          end
          {**step, **(step["id"] ? {"id" => -step["id"].abs} : {}), **(lanes ? {"lanes" => lanes} : {})}
        end
      end

      def self.timed(step)
        timing = step.timing_json.transform_keys(&:to_s)
        {**timing, "on_date" => timing["on_date"]&.iso8601, "other" => step.other}.compact
      end
      private_class_method :timed

      def self.plain(step)
        step = step.except("timing")
        return step unless step["lanes"]

        step.merge("lanes" => step["lanes"].map { |lane| lane.merge("steps" => lane["steps"].map { |one| plain(one) }) })
      end
      private_class_method :plain
    end
  end
end
