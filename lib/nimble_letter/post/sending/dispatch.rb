# frozen_string_literal: true

module NimbleLetter
  module Post
    # Carries claimed deliveries to the wire. Each delivery is recorded before and after the wire; the outcome of one letter
    # and the departure of the next share a commit, so at most one letter of each sending lane can ever be in doubt. What they say is
    # written beforehand for a batch, what follows from their being taken afterwards for many together. Running
    # it twice is safe: only a delivery of this lane's own lease moves. A letter that cannot be made is set aside.
    class Dispatch
      BATCH = 100

      # @param transport [#deliver, #close, #break_off] see Outcomes
      # @param claims [Claims]
      # @param composer [Composer]
      # @param checkpoints [#reach]
      # @param patience [Records::Patience] rides out a database that goes away
      def initialize(transport:, claims:, composer:, patience: Records::Patience.new, checkpoints: Checkpoints::NONE)
        @transport, @claims, @composer, @patience, @checkpoints = transport, claims, composer, patience, checkpoints
        @telling = Telling.new(claims.on_wire, patience, checkpoints)
        @recording = Recording.new(claims, checkpoints, @telling)
      end

      # Sends what is due, batch by batch, until nothing is.
      # @param moment [Work::Moment]
      # @param upto [Time] letters due by then go as well, each recorded at its own time; only a clock that is moved by hand
      #   may look ahead like this
      # @param mailbox_id [Integer, nil] letters from there only
      # @param stop [#call] asked before each letter; true gives back what is claimed and ends the round
      # @param batches [Integer] at most
      # @return [Integer] letters handled
      def round(moment, upto: moment.now, mailbox_id: nil, stop: -> { false }, batches: 20)
        handled = 0
        batches.times do
          rows = @patience.ride { @claims.take(moment, limit: BATCH, upto: upto, mailbox_id: mailbox_id) }
          break if rows.nil?

          handled += rows.size
          @claims.keeping { carry(rows, moment, stop) }
          break if stop.call
        end
        handled
      end

      # From another thread: whoever waits for the mail server is told that the line broke.
      def break_off = @transport.break_off

      private

      def carry(rows, moment, stop)
        load = @patience.ride { Load.new(rows, moment, base_url: @composer.public_url) }
        # Composed before any goes out: between two letters nothing may keep an outcome from being recorded.
        @departure = Departure.new(@claims, load)
        letters = rows.take_while { !stop.call }.to_h { |row| [row, compose(row, load, moment)] }.compact
        letters = written(letters, load)
        outcome = nil
        letters.each do |row, letter|
          break if stop.call

          departed = settle(outcome, load) { |taken| depart(row, letter, load, taken) }
          @telling.when_due(moment)
          outcome = departed ? [row, hand_over(row, letter, load)] : nil
        end
        settle(outcome, load) if outcome
        @telling.now(moment)
        @claims.give_back(rows)
      end

      # @return [Composer::Letter, nil] nil when it was set aside
      def compose(row, load, moment)
        @checkpoints.reach(:claimed, row)
        @patience.ride { composed(row, load, moment) }
      rescue *Records::Patience::AWAY
        raise
      rescue *Work::PutAside::OF_ONE_THING => error
        aside(row, error, load)
      end

      # What is made once for a whole batch may fail by one of it, so whoever fails is looked at alone.
      def composed(row, load, moment)
        load.compose(row, @composer)
      rescue *Records::Patience::AWAY
        raise
      rescue *Work::PutAside::OF_ONE_THING
        Load.new([row], moment, base_url: @composer.public_url).compose(row, @composer)
      end

      # What each of them says is written before the first goes: nothing long is written between two letters.
      # @return [Hash{Records::Delivery=>Composer::Letter}] those that are
      def written(letters, load)
        @patience.ride { Records.db.transaction { letters.each { |row, letter| write_down(row, letter) } } }
        letters
      rescue *Records::Patience::AWAY
        raise
      rescue *Work::PutAside::OF_ONE_THING => error
        # One of them keeps the others: each is written alone.
        return aside(letters.keys.first, error, load) || {} if letters.size == 1

        letters.map { |row, letter| written({row => letter}, load) }.inject(:merge)
      end

      def write_down(row, letter)
        return unless letter.raw

        @claims.mine(row, "claimed").update(
          message_id: letter.message_id,
          subject: letter.subject[0, 998],
          html: letter.html,
          text: letter.text,
          links: JSON.generate(letter.links)
        )
      end

      # Records what became of the last letter and lets the next one go, in one commit.
      # @yield the next one, with the last when all there is to record of it is that it was taken
      # @return [Boolean] what the block says
      def settle(outcome, load, &next_one)
        taken = @recording.taken(outcome, load)
        @patience.ride do
          next (next_one ? next_one.call(taken) : @departure.call(nil, taken)) if taken || outcome.nil?

          Records.db.transaction do
            @recording.record(outcome, load)
            next_one ? next_one.call(nil) : false
          end
        end
      rescue *Records::Patience::AWAY
        raise
      rescue *Work::PutAside::OF_ONE_THING => error
        raise unless outcome

        # What follows from a letter that is out must not make it one that is not.
        @patience.ride { taken ? @departure.call(nil, taken) : @recording.record_alone(outcome, load, error) }
        next_one ? settle(nil, load, &next_one) : false
      end

      def hand_over(row, letter, load)
        @checkpoints.reach(:before_wire, row)
        result = @transport.deliver(letter.raw, from: load.mailbox(row).address, to: load.person(row).email)
        @checkpoints.reach(:after_wire, row)
        file(letter, load.mailbox(row)) if letter.filed && result.is_a?(Outcomes::Accepted)
        result
      end

      # A copy that is not taken keeps nothing from going on: the letter itself is kept here.
      def file(letter, mailbox) = @transport.deliver(letter.filed, from: mailbox.address, to: mailbox.filing_address)

      # @param taken [Records::Delivery, nil] the one before, of which this says as well that it was taken
      # @return [Boolean] true when the letter may go on the wire
      def depart(row, letter, load, taken)
        at = load.departure(row)
        again = letter.raw && load.barred.had_already?(row, load.person(row))
        if letter.raw.nil? || again
          @departure.call(nil, taken) if taken
          return again ? turned_back(row, Core::Sieve::SAME_ADDRESS, at) : missing(row, letter, load)
        end

        @departure.call(row, taken) || kept_back(row, load, at)
      end

      # What keeps a letter back may pass, a hold or a pause; a "no" does not.
      # @return [false]
      def kept_back(row, load, at)
        reason = load.barred.reason(load.person(row))
        reason ? turned_back(row, reason, at) : false
      end

      # Somebody said no, or has the letter already under another record: the member leaves, and nothing is sent.
      # @return [false]
      def turned_back(row, reason, at)
        member = Records::Member.dataset.for_update.first(id: row.member_id)
        Work::Leaving.call(member, reason, at: at)
        false
      end

      # @return [false]
      def missing(row, letter, load)
        words = letter.gaps.map { |key| Records::FieldCatalogue.current[key].label.downcase }
        problem = words.empty? ? "There is no address any more." : "Nothing to put in for: #{words.join(", ")}."
        aside(row, problem, load, lacks: letter.gaps)
        false
      end

      # @return [nil]
      def aside(row, problem, load, lacks: [])
        Work::LetterAside.call(row, problem, at: load.departure(row), lacks: lacks, held: @claims.mine(row, "claimed"))
        nil
      end
    end
  end
end
