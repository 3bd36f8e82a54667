# frozen_string_literal: true

module NimbleLetter
  module Post
    # What a worker does in one round: recover what a lost worker held, send what is due, take in what came back.
    class Worker
      # @param dispatch [Dispatch]
      # @param claims [Claims]
      # @param intake [Intake]
      # @param tests [TestLetters]
      # @param lookups [#ask]
      def initialize(dispatch:, claims:, intake:, tests:, lookups:)
        @dispatch, @claims, @intake, @tests, @lookups = dispatch, claims, intake, tests, lookups
      end

      # @param configuration [Configuration]
      # @param transport [#deliver]
      # @return [Worker] wired up as it is used
      def self.build(
        configuration,
        transport: SmtpTransport.new(host: "127.0.0.1", port: configuration.smtp_port),
        checkpoints: Checkpoints::NONE,
        patience: Patience.new
      )
        claims = Claims.new(lease_seconds: configuration.lease_seconds)
        composer = Composer.new(tokens: Core::Tracking::Token.new(configuration.secret), public_url: configuration.public_url)
        dispatch = Dispatch.new(transport: transport, claims: claims, composer: composer, checkpoints: checkpoints, patience: patience)
        new(
          dispatch: dispatch,
          claims: claims,
          intake: Intake.new(maildir: Maildir.new(configuration.maildir)),
          tests: TestLetters.new(transport: transport, composer: composer),
          lookups: Lookups::HttpAdapter.new(configuration.lookup_url)
        )
      end

      # @param now [Time]
      # @param upto [Time] see Dispatch#round
      # @return [Integer] letters handled
      def dispatch_due(now, upto: now) = @dispatch.round(moment(now), upto: upto)

      # @return [Integer] letters to colleagues handled
      def send_tests(now) = @tests.round(moment(now))

      # @return [Integer] pieces of mail taken in
      def take_in(now) = @intake.round(moment(now))

      # Gives back or puts in doubt what a lost worker held.
      def recover = @claims.recover

      # @return [Time, nil] when the next letter is due
      def next_due(after:)
        running = Records::Sequence.where(state: "running").select_map(:id)
        Records::Delivery
          .where(state: "due", sequence_id: running)
          .exclude(Work::PostHold.dataset.select(1).exists)
          .where { due_at > after }
          .min(:due_at)
      end

      private

      # Read anew each round: the look, the address and the signatures are those of this moment.
      def moment(now) = Work::Moment.new(now: now, lookups: @lookups)
    end
  end
end
