# frozen_string_literal: true

module NimbleLetter
  module Work
    # A running sequence ends by itself when nobody is on the way any more, nothing is on the wire, and
    # no live rule can bring anybody.
    module Ending
      # Two who finish at once each see the other still on the way: what neither of them ended, the worker's next round does.
      def self.sweep(at:)
        Records::Sequence.where(state: "running").select_map(:id).each { |id| check(id, at: at) }
      end

      # Repeating it changes nothing: only a running sequence can end.
      def self.check(sequence_id, at:)
        return if Records::Member.active.where(sequence_id: sequence_id).any?
        return if Records::Delivery.still_due.where(sequence_id: sequence_id).any?
        # Somebody may join any day.
        return if Records::JoinRule.listening.where(sequence_id: sequence_id).any?

        running = Records::Sequence.where(id: sequence_id, state: "running")
        ended = running.update(state: "ended", ended_at: at, version: Sequel[:version] + 1)
        SequenceEvents.append("ended", sequence_id, at: at, data: {set: cause(sequence_id)}.compact) if ended == 1
      end

      # @return [Integer, nil] the act that took the last member out; nil: they finished, or left for another reason
      def self.cause(sequence_id)
        last = Records::Event.where(sequence_id: sequence_id, kind: %w[left finished]).order(Sequel.desc(:id)).first
        last&.data&.[]("set")
      end
      private_class_method :cause
    end
  end
end
