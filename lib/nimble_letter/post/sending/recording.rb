# frozen_string_literal: true

module NimbleLetter
  module Post
    # Writes down what became of a letter that was handed over. Recording the same outcome again, after a commit whose answer
    # was lost, finds nothing of its own and does nothing.
    class Recording
      # @param claims [Claims]
      # @param checkpoints [#reach]
      # @param telling [Telling]
      def initialize(claims, checkpoints, telling)
        @claims, @checkpoints, @telling = claims, checkpoints, telling
        @failing = Set.new # mailboxes whose last letter failed
      end

      # @param outcome [Array(Records::Delivery, Object), nil] see Outcomes
      # @param load [Load]
      def record(outcome, load)
        return unless outcome

        row, result = outcome
        if result.is_a?(Outcomes::Doubtful) then in_doubt(row, result, load)
        else result.about_address? ? refused(row, result, load) : not_taken(row, result, load)
        end
        @checkpoints.reach(:recorded, row)
      end

      # A letter that was taken is only marked as such, see Departure; what follows is told for many together.
      # @return [Records::Delivery, nil] it; nil for any other outcome
      def taken(outcome, load)
        row, result = outcome
        return unless result.is_a?(Outcomes::Accepted)

        @telling.add(row, load.person(row))
        works(row, load)
        @checkpoints.reach(:recorded, row)
        row
      end

      # When an outcome cannot be recorded in full: that it failed, or nobody knows, and the member set aside where they are.
      # @param error [Exception] what kept it from being recorded in full
      def record_alone(outcome, load, error)
        row, result = outcome
        Records.db.transaction do
          state = result.is_a?(Outcomes::Doubtful) ? "in_doubt" : "failed"
          next unless mine(row).update(state: state, reason: result.words[0, 300], lease: nil, leased_until: nil) == 1

          Work::PutAside.call("letter", row.id, error, at: load.departure(row), delivery_id: row.id)
        end
      end

      private

      def mine(row) = @claims.mine(row, "on_wire")

      def in_doubt(row, result, load)
        mine(row).update(state: "in_doubt", reason: result.words[0, 300], lease: nil, leased_until: nil)
        fails(row, result, load)
      end

      # The server knows the address and says no: it works well.
      def refused(row, result, load)
        Work::Passing.refused(row, "The address was refused: #{result.words}", at: load.departure(row), held: mine(row))
        works(row, load)
      end

      def not_taken(row, result, load)
        return unless mine(row).any?

        at = load.departure(row)
        tries = Records::Delivery.where(id: row.id).get(:attempts)
        pause = Core::Sending::Tries.pause_after(tries)
        if result.for_good?
          Work::LetterAside.call(row, "The mail server refused it: #{result.words}", at: at, held: mine(row))
        elsif pause.nil?
          Work::LetterAside.call(row, "The mail server did not take it in #{tries} tries: #{result.words}", at: at, held: mine(row))
        else
          due_again(row, result, load, at + pause)
        end
        fails(row, result, load)
      end

      def due_again(row, result, load, from)
        mine(row).update(
          state: "due",
          due_at: Work::Reopening.new(load.moment).for(row, from: from),
          reason: result.words[0, 300],
          message_id: nil,
          sent_at: nil,
          lease: nil,
          leased_until: nil
        )
      end

      def fails(row, result, load)
        @failing << row.mailbox_id
        Work::RestMailbox.failed(row.mailbox_id, result.key, result.words, at: load.departure(row))
      end

      def works(row, load)
        return unless @failing.delete?(row.mailbox_id) || load.mailbox(row).fails_in_row.positive?

        Work::RestMailbox.wake(row.mailbox_id)
      end
    end
  end
end
