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

      def place = Core::Journey::Machine::Place.new(passed, base)
    end
  end
end
