# frozen_string_literal: true

module NimbleLetter
  module Records
    # Ordered steps over time, with its audience, its sender and what takes members out.
    class Sequence < Sequel::Model(:sequences)
      extend JsonColumn
      include Versioned

      json_column :audience, :sender, :leave_on, :leave_if, :proposal

      STATES = %w[draft running paused stopped ended].freeze
      UNDER_WAY = %w[running paused].freeze

      dataset_module { where :under_way, state: UNDER_WAY }

      many_to_one :account
      # What was taken out of a plan that ran stays, for those who had it.
      one_to_many :steps, order: :position, conditions: {out_at: nil}
      one_to_many :members
      one_to_many :plans, class: "NimbleLetter::Records::FrozenPlan", order: :number
      one_to_many :events, class: "NimbleLetter::Records::SequenceEvent", order: :id
      one_to_many :deliveries

      # @return [Core::Journey::Plan] of a draft as it is laid out now; else the one that is in effect
      def plan = draft? ? laid_out : FrozenPlan.of(id).to_core

      # @param number [Integer] 1 is the first
      # @param half_made [Boolean] whether a step may be there of which something is still to be said
      # @return [Core::Journey::Plan]
      # @raise [Invalid] when it is laid out in a way that cannot be meant
      def laid_out(number = 1, half_made: draft?)
        leaving = {"leave_on" => leave_on, "leave_if" => leave_if, "ends_at" => ends_at&.getutc&.iso8601(6)}
        Core::Journey::PlanJson.read({"steps" => tree, **leaving}, number: number, half_made: half_made)
      end

      # @return [Array<Hash>] the steps of the trunk, lanes within their forks, as Core::Journey::PlanJson reads them
      # @yield [Step] more about each step
      def tree(&more)
        lanes = Lane.where(fork_id: steps.map(&:id), out_at: nil).order(:position).all.group_by(&:fork_id)
        branch(steps.group_by(&:lane_id), lanes, nil, more)
      end

      # @return [Array<Step>]
      def letter_steps = steps.select(&:letter?)

      def draft? = state == "draft"

      def under_way? = UNDER_WAY.include?(state)

      private

      def branch(by_lane, lanes, lane_id, more)
        by_lane.fetch(lane_id, []).map do |step|
          own = {**step.to_plan, **(more ? more.call(step) : {})}
          next own unless step.kind == "fork"

          own_lanes = lanes.fetch(step.id, [])
          own.merge("lanes" => own_lanes.map { |lane| lane.to_plan.merge("steps" => branch(by_lane, lanes, lane.id, more)) })
        end
      end
    end
  end
end
