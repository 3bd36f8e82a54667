# frozen_string_literal: true

module NimbleLetter
  module Records
    # What a colleague wrote in the margin of a plan, beside a step or about the whole of it.
    class PlanNote < Sequel::Model(:plan_notes)
      include Versioned

      many_to_one :sequence
      many_to_one :step
      many_to_one :account
    end
  end
end
