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
      one_to_many :deliveries

      # @return [Core::Journey::Plan]
      def plan = Core::Journey::Plan.new(steps: steps.map(&:to_core), leave_on: leave_on)

      def draft? = state == "draft"
    end
  end
end
