# frozen_string_literal: true

module NimbleLetter
  module Post
    # Sends from all mailboxes at once, each on a lane of its own with its own connection, and tests on another.
    class AtOnce
      TESTS = :tests

      # @param dispatch [#call] makes a Dispatch with a connection of its own
      # @param tests [#call] makes an OwnLetters with a connection of its own
      # @param claims [Claims] finds which mailboxes have something to send
      # @param stop [#call] whether to end
      def initialize(dispatch:, tests:, claims:, stop:)
        @claims = claims
        @lanes = Lanes.new(->(key) { (key == TESTS) ? tests.call : dispatch.call }, stop: stop)
      end

      # @return [Integer] letters handled
      def letters(moment, upto:)
        @lanes.run(@claims.mailboxes(moment, upto: upto)) do |mailbox_id, dispatch, stop|
          dispatch.round(moment, upto: upto, mailbox_id: mailbox_id, stop: stop)
        end
      end

      # @return [Integer] letters to colleagues handled
      def tests(moment)
        return 0 unless OwnLetters.any?

        @lanes.run([TESTS]) { |_, tests, stop| tests.round(moment, stop: stop) }
      end

      def busy? = @lanes.busy?

      def close = @lanes.close
    end
  end
end
