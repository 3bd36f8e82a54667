# frozen_string_literal: true

module NimbleLetter
  module Work
    # Pause, resume and stop. Each is one move on the sequence's state; the worker looks at it before every letter.
    module RunSequence
      MOVES = {"pause" => {from: %w[running], to: "paused", event: "paused"},
               "resume" => {from: %w[paused], to: "running", event: "resumed"},
               "stop" => {from: %w[running paused], to: "stopped", event: "stopped"}}.freeze

      # @param move [String] one of MOVES
      # @raise [Invalid] when the sequence is in no state for it
      def self.call(sequence, move, moment:)
        rule = MOVES.fetch(move) { raise Invalid.new("A sequence can pause, resume or stop.", at: "move") }
        Records.db.transaction do
          sequence.lock!
          raise Invalid.new("A #{sequence.state} sequence cannot #{move}.", code: :wrong_state) unless rule[:from].include?(sequence.state)

          sequence.update(
            state: rule[:to],
            updated_at: moment.now,
            version: sequence.version + 1,
            ended_at: (moment.now if move == "stop")
          )
          KeepRule.listen(sequence, moment)
          take_everybody_out(sequence, moment) if move == "stop"
          SequenceEvents.append(rule[:event], sequence.id, at: moment.now, account_id: moment.account&.id)
        end
        sequence
      end

      def self.take_everybody_out(sequence, moment)
        sequence.members_dataset.active.for_update.all.each do |member|
          Leaving.call(member, "stopped", at: moment.now, account_id: moment.account&.id)
        end
      end
      private_class_method :take_everybody_out
    end
  end
end
