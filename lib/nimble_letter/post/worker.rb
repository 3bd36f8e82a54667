# frozen_string_literal: true

module NimbleLetter
  module Post
    # What a worker does in one round: recover what a lost worker held, send what is due, take in what came back.
    class Worker
      # @param sending [#letters, #tests, #close] InTurn or AtOnce
      # @param claims [Claims]
      # @param intake [Intake]
      # @param lookups [#ask]
      # @param hands [Integer] slices of members under way at once
      def initialize(sending:, claims:, intake:, lookups:, hands: 1)
        @sending, @claims, @intake, @lookups, @hands = sending, claims, intake, lookups, hands
      end

      # @param configuration [Configuration]
      # @param transport [#call] makes one; each sending lane has its own
      # @param stop [#call, nil] whether to end; with it, all mailboxes send at once
      # @param gate [#call] see Claims
      # @return [Worker] wired up as it is used
      def self.build(
        configuration,
        transport: -> { SmtpTransport.new(host: "127.0.0.1", port: configuration.smtp_port) },
        checkpoints: Checkpoints::NONE,
        patience: Records::Patience.new,
        stop: nil,
        gate: ->(_now) { true }
      )
        composer = Composer.new(tokens: Core::Tracking::Token.new(configuration.secret), public_url: configuration.public_url)
        claims = -> { Claims.new(lease_seconds: configuration.lease_seconds, gate: gate) }
        dispatch = -> do
          Dispatch.new(transport: transport.call, claims: claims.call, composer: composer, checkpoints: checkpoints, patience: patience)
        end
        tests = -> { OwnLetters.new(transport: transport.call, composer: composer) }
        new(
          sending:
            if stop
              AtOnce.new(dispatch: dispatch, tests: tests, claims: claims.call, stop: stop)
            else
              InTurn.new(dispatch: dispatch.call, tests: tests.call)
            end,
          claims: claims.call,
          intake: Intake.new(maildir: Maildir.new(configuration.maildir), patience: patience),
          lookups: Lookups::HttpAdapter.new(configuration.lookup_url),
          hands: stop ? 2 : 1
        )
      end

      # @param now [Time]
      # @param upto [Time] see Dispatch#round
      # @return [Integer] letters handled
      def dispatch_due(now, upto: now)
        at = moment(now)
        Work::StartLater.round(at)
        Work::FilledGaps.round(at)
        Work::ReckonAnew.round(at)
        Work::AskLeaving.round(at)
        Work::ApplyPlan.round(at)
        Work::JoinByRules.round(at)
        Work::AdvanceMembers.round(at, hands: @hands)
        @sending.letters(at, upto: upto).tap { Work::Ending.sweep(at: now) }
      end

      # @return [Boolean] whether letters are claimed, or on the wire; between rounds they are other workers'
      def others_send? = Records::Delivery.where(state: %w[claimed on_wire]).where { leased_until > Records.server_time }.any?

      # Only what is due; for a process beside the one that does all else.
      # @return [Integer] letters handled
      def send_due(now) = @sending.letters(moment(now), upto: now)

      # @return [Integer] letters to colleagues handled
      def send_tests(now) = @sending.tests(moment(now))

      # @return [Integer] pieces of mail taken in
      def take_in(now) = @intake.round(moment(now))

      # Gives back or puts in doubt what a lost worker held.
      def recover
        @claims.recover
        OwnLetters.recover
      end

      # @return [Boolean] whether letters are still under way after a round
      def busy? = @sending.busy?

      # Ends what is under way; see Lanes#close.
      def close = @sending.close

      # @return [Time, nil] when the next letter or member is due, the next mailbox has rested, or a new day asks who leaves
      def next_due(after:)
        running = Records::Sequence.where(state: "running").select_map(:id)
        moment = moment(after)
        waiting = Records::Delivery.where(state: "due", sequence_id: running).going.exclude(Work::PostHold.dataset.select(1).exists)
        # What comes due while its mailbox takes nothing is looked at when it does.
        kept = Records::Mailbox.waiting(after).select_map(:id)
        waiting = waiting.exclude(mailbox_id: kept) if kept.any?
        [
          waiting.where { due_at > after }.min(:due_at),
          Records::Mailbox.resting(after).min(:rests_until),
          Records::Mailbox.waiting(after).min(:free_at),
          Work::AdvanceMembers.next_due(after: after),
          Work::StartLater.next_due(after: after),
          Work::AskLeaving.next_due(moment),
          Work::JoinByRules.next_due(moment)
        ].compact.min
      end

      private

      # Read anew each round: the look, the address and the signatures are those of this moment.
      def moment(now) = Work::Moment.new(now: now, lookups: @lookups)
    end
  end
end
