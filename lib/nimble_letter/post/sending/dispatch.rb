# frozen_string_literal: true

module NimbleLetter
  module Post
    # Carries claimed deliveries to the wire and records what became of them. Each delivery is recorded before
    # and after the wire; the outcome of one letter and the departure of the next share a commit, so at most one letter per
    # worker can ever be in doubt. Running it twice is safe: only a delivery of this worker's own lease moves.
    class Dispatch
      MAX_ATTEMPTS = 5
      RETRY_SECONDS = 5 * 60 # times the number of attempts so far
      BATCH = 50

      # @param transport [#deliver, #close] see Outcomes
      # @param claims [Claims]
      # @param composer [Composer]
      # @param checkpoints [#reach]
      # @param patience [Patience] rides out a database that goes away
      def initialize(transport:, claims:, composer:, patience: Patience.new, checkpoints: Checkpoints::NONE)
        @transport, @claims, @composer, @patience, @checkpoints = transport, claims, composer, patience, checkpoints
      end

      # Sends what is due, batch by batch, until nothing is.
      # @param moment [Work::Moment]
      # @param upto [Time] letters due by then go as well, each recorded at its own time; only a clock that is moved by hand
      #   may look ahead like this
      # @param batches [Integer] at most
      # @return [Integer] letters handled
      def round(moment, upto: moment.now, batches: 20)
        handled = 0
        batches.times do
          rows = @claims.take(moment, limit: BATCH, upto: upto)
          break if rows.empty?

          handled += rows.size
          carry(rows, moment)
        end
        handled
      end

      private

      def departure(row, moment) = [row.due_at, moment.now].max

      def carry(rows, moment)
        load = Load.new(rows, moment, base_url: @composer.public_url)
        # Composed before any goes out: between two letters nothing may keep an outcome from being recorded.
        letters = rows.to_h { |row| [row, compose(row, load, moment)] }
        outcome = nil
        letters.each do |row, letter|
          departed = @patience.ride { Records.db.transaction { record(outcome, moment, load) && depart(row, letter, moment) } }
          outcome = departed ? [row, hand_over(row, letter, load)] : nil
        end
        @patience.ride { Records.db.transaction { record(outcome, moment, load) } }
      end

      def compose(row, load, moment)
        @checkpoints.reach(:claimed, row)
        load.compose(row, @composer, now: departure(row, moment))
      end

      def hand_over(row, letter, load)
        @checkpoints.reach(:before_wire, row)
        result = @transport.deliver(letter.raw, from: load.mailbox(row).address, to: load.person(row).email)
        @checkpoints.reach(:after_wire, row)
        result
      end

      # @return [Boolean] true when the letter may go on the wire; the last look at the hold, the pause and the member
      def depart(row, letter, moment)
        return give_up(row, letter, moment) unless letter.raw

        departing = @claims.mine(row, "claimed").exclude(Work::PostHold.dataset.select(1).exists)
          .where(sequence_id: Records::Sequence.where(state: "running").select(:id))
        changed =
          departing.update(
            state: "on_wire",
            attempts: Sequel[:attempts] + 1,
            message_id: letter.message_id,
            subject: letter.subject[0, 998],
            html: letter.html,
            text: letter.text,
            links: JSON.generate(letter.links),
            sent_at: departure(row, moment)
          )
        return true if changed == 1

        @claims.mine(row, "claimed").update(state: "due", lease: nil, leased_until: nil)
        false
      end

      def give_up(row, letter, moment)
        reason =
          (
            if letter.gaps.empty?
              "There is no address any more."
            else
              "Nothing to put in for: #{letter.gaps.map { |key| Records::FieldCatalogue.current[key].label.downcase }.join(", ")}."
            end
          )
        Work::Passing.failed(row, reason, at: departure(row, moment), moment: moment) if @claims.mine(row, "claimed").any?
        false
      end

      # Recording the same outcome again, after a commit whose answer was lost, finds nothing of its own and does nothing.
      # @return [true]
      def record(outcome, moment, load)
        return true unless outcome

        row, result = outcome
        mine = @claims.mine(row, "on_wire")
        case result
        when Outcomes::Accepted
          Work::Passing.sent(row, at: departure(row, moment), moment: moment, held: mine, person: load.person(row))
        when Outcomes::Doubtful
          mine.update(state: "in_doubt", reason: result.words[0, 300], lease: nil, leased_until: nil)
        else
          not_taken(row, result, moment) if mine.any?
        end
        @checkpoints.reach(:recorded, row)
        true
      end

      def not_taken(row, result, moment)
        for_good = result.is_a?(Outcomes::Refused) && result.for_good
        attempts = Records::Delivery.where(id: row.id).get(:attempts)
        if for_good || attempts >= MAX_ATTEMPTS
          Work::Passing.failed(
            row,
            "#{for_good ? "The address was refused" : "The mail server did not take it"}: #{result.words}",
            at: departure(row, moment),
            moment: moment,
            refused: for_good
          )
        else
          @claims.mine(row, "on_wire").update(state: "due", due_at: moment.now + RETRY_SECONDS * attempts, reason: result.words[0, 300],
            message_id: nil, sent_at: nil, lease: nil, leased_until: nil)
        end
      end
    end
  end
end
