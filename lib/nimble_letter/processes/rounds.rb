# frozen_string_literal: true

module NimbleLetter
  module Processes
    # Goes round until told to end. A database that is away is waited for; whatever else a round raises is set aside under
    # the name of the part, and the next round comes after a pause that grows as long as it goes on.
    class Rounds
      AWAY_SECONDS = 1
      LONGEST_PAUSE_SECONDS = 30

      # @param part [String] what to call it
      # @param pause_seconds [Float] after a round in which nothing happened
      # @param now [#call] by the clock in use
      def initialize(part, pause_seconds:, now:)
        @part, @pause_seconds, @now = part, pause_seconds, now
        @failures = 0
      end

      # @yield one round; true when something happened
      def run(&round)
        nil until Signals.wait(pause_after(&round))
      end

      private

      def pause_after
        pause = yield ? 0 : @pause_seconds
        @failures = 0
        pause
      rescue *Records::Patience::AWAY => error
        Log.warn("waiting for the database", error)
        AWAY_SECONDS
      rescue *Work::PutAside::OF_ONE_THING => error
        set_aside(error)
        [2**(@failures += 1), LONGEST_PAUSE_SECONDS].min
      end

      def set_aside(error)
        Log.error("a round failed", error)
        Work::PutAside.call("round", "#{@part} #{error.class}", error, at: @now.call)
      rescue *Records::Patience::AWAY
        # It stands in the log; the next round may say it again.
      end
    end
  end
end
