# frozen_string_literal: true

module NimbleLetter
  module Records
    # A person in a sequence, at one place in it at a time.
    class Member < Sequel::Model(:members)
      many_to_one :sequence
      many_to_one :person
      many_to_one :mailbox
      one_to_many :deliveries

      dataset_module do
        def active = where(state: "active")
      end

      # @param plan [Core::Journey::Plan] of its sequence
      # @return [Core::Journey::Place]
      def place(plan) = Core::Journey::Place.new(step_id: plan.steps[passed]&.id, base: base, joined: joined_at)
    end
  end
end
