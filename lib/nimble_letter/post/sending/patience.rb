# frozen_string_literal: true

require "sequel"

module NimbleLetter
  module Post
    # Rides out a database that goes away and comes back. Only for work that is safe to begin again.
    class Patience
      AWAY = [Sequel::DatabaseDisconnectError, Sequel::DatabaseConnectionError, Sequel::PoolTimeout, Sequel::SerializationFailure].freeze

      # @param seconds [Integer] how long to go on trying
      # @param pause [#call] waits between two tries
      # @param clock [#call] seconds that only grow
      def initialize(
        seconds: 120,
        pause: -> { IO.select(nil, nil, nil, 0.5) },
        clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
      )
        @seconds, @pause, @clock = seconds, pause, clock
      end

      # @yield until it succeeds or the time is up
      # @return what the block returns
      def ride
        deadline = @clock.call + @seconds
        begin
          yield
        rescue *AWAY
          raise if @clock.call > deadline

          @pause.call
          retry
        end
      end
    end
  end
end
