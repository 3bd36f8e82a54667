# frozen_string_literal: true

module NimbleLetter
  module Processes
    # The worker as a process: rounds of sending and taking in, and in practice the way of the clock.
    class WorkerLoop
      PAUSE_SECONDS = 0.15

      # @param checkpoints [#reach] see Post::Checkpoints
      def initialize(configuration, checkpoints: Post::Checkpoints::NONE)
        @configuration, @checkpoints = configuration, checkpoints
      end

      # Works until told to end. A database or a network that is away is waited for.
      def run
        Part.begin(@configuration) or return
        worker = Post::Worker.build(@configuration, checkpoints: @checkpoints, stop: -> { Signals.told? })
        clock = Practice::Clock.new
        conductor = self.class.conductor(@configuration, worker, stop: -> { Signals.told? })
        # What was sent by hand starts in a moment, and nobody rings then.
        busy = -> { worker.busy? || Work::StartLater.any_soon? }
        rounds = Rounds.new("worker", @configuration, pause_seconds: PAUSE_SECONDS, now: -> { clock.now }, busy: busy)
        rounds.run do
          worker.recover
          conductor.turn
        end
        worker.close
      end

      # @param stop [#call] whether to end
      # @return [Practice::Conductor]
      def self.conductor(configuration, worker, stop: -> { false })
        maildir, home = Post::Maildir.new(configuration.maildir), Practice::Home.new(configuration.port)
        reactions = Practice::Reactions.new(maildir: maildir, home: home)
        Practice::Conductor.new(clock: Practice::Clock.new, worker: worker, reactions: reactions, stop: stop)
      end
    end
  end
end
