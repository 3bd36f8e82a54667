# frozen_string_literal: true

module NimbleLetter
  module Records
    # Ordered steps over time, with its audience, its sender and what takes members out.
    class Sequence < Sequel::Model(:sequences)
      extend JsonColumn
      include Versioned

      json_column :audience, :sender, :leave_on

      STATES = %w[draft running paused stopped ended].freeze

      many_to_one :account
      one_to_many :steps, order: :position
      one_to_many :members
      one_to_many :plans, class: "NimbleLetter::Records::FrozenPlan", order: :number
      one_to_many :events, class: "NimbleLetter::Records::SequenceEvent", order: :id
      one_to_many :deliveries

      # @return [Core::Journey::Plan] of a draft as it is laid out now; else the one that is in effect
      def plan = draft? ? laid_out : plans_dataset.order(Sequel.desc(:number)).first.to_core

      # @param number [Integer] 1 is the first
      # @return [Core::Journey::Plan]
      def laid_out(number = 1) = Core::Journey::Plan.new(steps: steps.map(&:to_core), leave_on: leave_on, number: number)

      def draft? = state == "draft"
    end
  end
end
