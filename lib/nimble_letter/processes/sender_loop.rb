# frozen_string_literal: true

module NimbleLetter
  module Processes
    # The sender as a process: it takes letters that are due to their servers, beside the worker that does so too, on another processor.
    # While the practice clock is on its way it leaves them to the worker, so that letters and answers keep their order.
    class SenderLoop
      PAUSE_SECONDS = 0.15

      def initialize(configuration)
        @configuration = configuration
      end

      # Works until told to end. A database or a network that is away is waited for.
      def run
        Part.begin(@configuration) or return
        clock = Practice::Clock.new
        # The worker that moves the clock must see what is claimed here, see Practice::Conductor.
        worker = Post::Worker.build(@configuration, stop: -> { Signals.told? }, gate: clock.method(:stands_at?))
        rounds = Rounds.new("sender", @configuration, pause_seconds: PAUSE_SECONDS, now: -> { clock.now }, busy: -> { worker.busy? })
        rounds.run do
          clock.target.nil? && worker.send_due(clock.now).positive?
        end
        worker.close
      end
    end
  end
end
