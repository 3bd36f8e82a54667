# frozen_string_literal: true

module NimbleLetter
  module Post
    # Sends everything in turn, in the order in which it is due, and comes back when it is done: for specs, for measuring, and
    # for the demo's half year, where the same seed is to give the same story. What runs for people uses AtOnce.
    class InTurn
      # @param dispatch [Dispatch]
      # @param tests [OwnLetters]
      def initialize(dispatch:, tests:)
        @dispatch, @tests = dispatch, tests
      end

      # @return [Integer] letters handled
      def letters(moment, upto:) = @dispatch.round(moment, upto: upto)

      # @return [Integer] letters to colleagues handled
      def tests(moment) = @tests.round(moment)

      def busy? = false

      def close = nil
    end
  end
end
