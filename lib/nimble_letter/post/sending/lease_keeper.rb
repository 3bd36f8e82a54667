# frozen_string_literal: true

module NimbleLetter
  module Post
    # Renews the lease of what a lane has claimed for as long as it works on it: a mail server that takes its time with one letter
    # gives the others of its batch to nobody else.
    class LeaseKeeper
      # @param seconds [Float] how long a lease runs
      # @yield renews it
      def initialize(seconds, &renew)
        @every, @renew = seconds / 3.0, renew
        @mutex, @over = Mutex.new, ConditionVariable.new
      end

      # @yield the work
      # @return what the work returns
      def while_working
        @done = false
        thread = Thread.new { keep }
        yield
      ensure
        @mutex.synchronize do
          @done = true
          @over.signal
        end
        thread&.join
      end

      private

      def keep
        @mutex.synchronize do
          until @done
            @over.wait(@mutex, @every)
            renew unless @done
          end
        end
      end

      # With the database away nobody else can take them either.
      def renew
        @renew.call
      rescue *Records::Patience::AWAY => error
        Log.warn("a lease could not be renewed", error)
      end
    end
  end
end
