# frozen_string_literal: true

module NimbleLetter
  module Records
    # The plan that members of a started sequence go by, under a number; never changed once it is made.
    class FrozenPlan < Sequel::Model(:plans)
      extend JsonColumn

      json_column :tree

      many_to_one :sequence
      many_to_one :account

      # @return [Core::Journey::Plan]
      def to_core = Core::Journey::PlanJson.read(tree, number: number)
    end
  end
end
