# frozen_string_literal: true

module NimbleLetter
  module Processes
    # The clerk as a process: what many records need in the background, beside the worker that handles the post.
    class ClerkLoop
      PAUSE_SECONDS = 0.2
      # A clerk makes and forgets a great many small texts; collecting them less often takes a third off a large file.
      ENVIRONMENT = {
        "RUBY_GC_MALLOC_LIMIT" => "134217728",
        "RUBY_GC_MALLOC_LIMIT_MAX" => "268435456",
        "RUBY_GC_OLDMALLOC_LIMIT" => "268435456",
        "RUBY_GC_HEAP_INIT_SLOTS" => "1000000"
      }.freeze

      def initialize(configuration)
        @configuration = configuration
      end

      # Works until told to end. A database that is away is waited for.
      def run
        Signals.listen
        Records.connect(@configuration)
        clerk, clock = Work::Clerk.new(@configuration.imports), Practice::Clock.new
        until @ending
          pause = turn(clerk, clock) ? 0 : PAUSE_SECONDS
          @ending = Signals.wait(pause)
        end
      end

      private

      def turn(clerk, clock)
        clerk.round(clock.now)
      rescue *Records::Patience::AWAY => error
        warn "Waiting for the database: #{error.message.lines.first}"
        @ending = Signals.wait(WorkerLoop::AWAY_SECONDS)
        false
      end
    end
  end
end
