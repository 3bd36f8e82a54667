# frozen_string_literal: true

require "sequel"
require "trilogy"

module NimbleLetter
  module Records
    # Rides out a database that goes away and comes back, and a transaction that lost a race. Only for work that is safe to
    # begin again.
    class Patience
      # Two transactions wanted the same rows, and this one was the one to give way.
      RACES = [Sequel::SerializationFailure, Sequel::DatabaseLockTimeout].freeze
      # Sequel lets some errors of the library below pass as they are, of a connection found dead for one.
      AWAY = [
        Sequel::DatabaseDisconnectError,
        Sequel::DatabaseConnectionError,
        Sequel::PoolTimeout,
        Trilogy::ConnectionError,
        *RACES
      ].freeze

      # @param seconds [Integer] how long to go on trying
      # @param pause [#call] waits between two tries
      # @param clock [#call] seconds that only grow
      # @param inside [#call] whether a transaction of the caller's is open: only the whole of it can begin again
      def initialize(
        seconds: 120,
        pause: -> { IO.select(nil, nil, nil, 0.5) },
        clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) },
        inside: -> { Records.db.in_transaction? }
      )
        @seconds, @pause, @clock, @inside = seconds, pause, clock, inside
      end

      # @yield until it succeeds or the time is up
      # @return what the block returns
      def ride
        deadline = @clock.call + @seconds
        begin
          yield
        rescue *AWAY
          raise if @clock.call > deadline || within_another?

          @pause.call
          retry
        end
      end

      private

      def within_another?
        @inside.call
      rescue *AWAY
        false
      end
    end
  end
end
