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
        Part.begin(@configuration) or return
        clerk, clock = Work::Clerk.new(@configuration.imports, Records::Owner.new(@configuration)), Practice::Clock.new
        Rounds.new("clerk", @configuration, pause_seconds: PAUSE_SECONDS, now: -> { clock.now }).run { clerk.round(clock.now) }
      end
    end
  end
end
