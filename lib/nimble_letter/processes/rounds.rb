# frozen_string_literal: true

module NimbleLetter
  module Processes
    # Goes round until told to end: when somebody rings, and every few seconds in any case. A database that is away is waited for; whatever
    # else a round raises is set aside under the name of the part, and the next round comes after a pause that grows as long as it goes on.
    class Rounds
      AWAY_SECONDS = 1
      LONGEST_PAUSE_SECONDS = 30

      # @param part [String] what to call it
      # @param configuration [Configuration] where it is woken, and how long it sleeps at most
      # @param pause_seconds [Float] between two rounds in which nothing happened, however often somebody rings
      # @param now [#call] by the clock in use
      # @param busy [#call] whether something goes on between rounds that may end at any moment
      def initialize(part, configuration, pause_seconds:, now:, busy: -> { false })
        @part, @pause_seconds, @now, @busy = part, pause_seconds, now, busy
        @look_seconds, @bell = configuration.look_seconds, Bell.new(configuration.bells)
        @failures = 0
      end

      # @yield one round; true when something happened
      def run(&round)
        rung = @bell.listen
        loop do
          @bell.heard
          pause = pause_after(&round)
          return if Signals.wait(pause || @pause_seconds)
          return if pause.nil? && !@busy.call && Signals.wait(@look_seconds, other: rung)
        end
      ensure
        @bell.close
      end

      private

      # @return [Numeric, nil] nil to sleep
      def pause_after
        happened = yield
        @failures = 0
        @bell.ring if happened
        happened ? 0 : nil
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
