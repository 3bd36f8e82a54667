# frozen_string_literal: true

module NimbleLetter
  module Records
    # A person in a sequence, at one place in it at a time. waits_for: a time, a reaction, a nod or an outcome; due_at: when the
    # journey has to be asked again, nil while a letter of theirs is written down with its time.
    class Member < Sequel::Model(:members)
      extend JsonColumn

      json_column :versions, :spent

      many_to_one :sequence
      many_to_one :person
      many_to_one :mailbox
      many_to_one :step
      one_to_many :deliveries

      dataset_module do
        def active = where(state: "active")

        # Those whom the journey has to be asked about by then.
        # @param sequences [Array<Integer>] that run
        def due(now, sequences)
          active.where(paused_at: nil, sequence_id: sequences).where { due_at <= now }.order(:due_at, :id)
        end

        # @return [Member, nil] of the round they are in, or were in last
        def newest(sequence_id, person_id) = where(sequence_id: sequence_id, person_id: person_id).order(Sequel.desc(:round)).first
      end

      # @return [Core::Journey::Place]
      def place = Core::Journey::Place.new(step_id: step_id, base: base, joined: joined_at, begun: begun, spent: spent || [])

      # @param place [Core::Journey::Place]
      # @return [Hash{Symbol=>Object}] columns
      def self.columns_of(place) =
        {step_id: place.step_id, base: place.base, begun: place.begun, spent: (JSON.generate(place.spent) if place.spent.any?)}

      # @return [String, nil] "a" or "b", where that step compares two
      def version_of(step_id) = versions&.[](step_id.to_s)
    end
  end
end
