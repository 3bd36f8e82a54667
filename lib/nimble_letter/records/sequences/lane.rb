# frozen_string_literal: true

module NimbleLetter
  module Records
    # One way out of a fork, as it is laid out.
    class Lane < Sequel::Model(:lanes)
      extend JsonColumn

      json_column :test

      many_to_one :fork, class: "NimbleLetter::Records::Step"
      one_to_many :steps, order: :position

      # @return [Hash] as Core::Journey::PlanJson reads it, without its steps
      def to_plan = {"id" => id, "words" => words, "test" => test, "comes_back" => comes_back}.compact
    end
  end
end
