# frozen_string_literal: true

module NimbleLetter
  module Processes
    # The worker as a process: rounds of sending and taking in, and in practice the way of the clock.
    class WorkerLoop
      PAUSE_SECONDS = 0.15
      AWAY_SECONDS = 1

      # @param checkpoints [#reach] see Post::Checkpoints
      def initialize(configuration, checkpoints: Post::Checkpoints::NONE)
        @configuration, @checkpoints = configuration, checkpoints
      end

      # Works until told to end. A database or a network that is away is waited for.
      def run
        Signals.listen
        Records.connect(@configuration)
        @worker = Post::Worker.build(@configuration, checkpoints: @checkpoints)
        conductor = self.class.conductor(@configuration, @worker)
        until @ending
          pause = turn(conductor) ? 0 : PAUSE_SECONDS
          @ending = Signals.wait(pause)
        end
      end

      # @return [Practice::Conductor]
      def self.conductor(configuration, worker)
        reactions = Practice::Reactions.new(maildir: Post::Maildir.new(configuration.maildir))
        Practice::Conductor.new(clock: Practice::Clock.new, worker: worker, reactions: reactions)
      end

      private

      def turn(conductor)
        @worker.recover
        conductor.turn
      rescue *Records::Patience::AWAY => error
        warn "Waiting for the database: #{error.message.lines.first}"
        @ending = Signals.wait(AWAY_SECONDS)
        false
      end
    end
  end
end
