# frozen_string_literal: true

module NimbleLetter
  module Records
    # A person in a sequence, at one place in it at a time.
    class Member < Sequel::Model(:members)
      extend JsonColumn

      json_column :versions

      many_to_one :sequence
      many_to_one :person
      many_to_one :mailbox
      many_to_one :step
      one_to_many :deliveries

      dataset_module do
        def active = where(state: "active")

        # @return [Member, nil] of the round they are in, or were in last
        def newest(sequence_id, person_id) = where(sequence_id: sequence_id, person_id: person_id).order(Sequel.desc(:round)).first
      end

      # @return [Core::Journey::Place]
      def place = Core::Journey::Place.new(step_id: step_id, base: base, joined: joined_at)

      # @return [String, nil] "a" or "b", where that step compares two
      def version_of(step_id) = versions&.[](step_id.to_s)
    end
  end
end
