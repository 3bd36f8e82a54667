# frozen_string_literal: true

module NimbleLetter
  module Records
    # Something a colleague does for a person: a call, a visit, a card. state: open, done, or dropped with a reason.
    class Task < Sequel::Model(:tasks)
      include Versioned

      many_to_one :person
      many_to_one :account
      many_to_one :sequence
      many_to_one :step
      many_to_one :member

      dataset_module do
        # @return [Sequel::Dataset] soonest first; nobody's who is in the bin
        def in_order = where(person_id: Person.kept.select(Sequel[:people][:id])).order(:due_on, :id)
      end
    end
  end
end
