# frozen_string_literal: true

module NimbleLetter
  module Practice
    # Moves the practice clock from one thing that happens to the next, so that however far somebody jumps, letters leave
    # and answers arrive in the order they would have: a reply stops the second letter even within one jump.
    class Conductor
      # Letters this close together are handed over as one batch, each with its own time.
      BATCH_SECONDS = 5 * 60
      # One worker at a time plays, whatever their number, or one would move on before another has done what is due.
      TURN = "practice clock"
      # Letters that others have claimed are waited for before the clock moves on, unless their server hangs.
      OTHERS_SECONDS = 5
      LOOK_SECONDS = 0.02

      # @param clock [Clock]
      # @param worker [Post::Worker]
      # @param reactions [Reactions]
      # @param stop [#call] whether to end; the clock goes on from where it stands the next time
      def initialize(clock:, worker:, reactions:, stop: -> { false })
        @clock, @worker, @reactions, @stop = clock, worker, reactions, stop
      end

      # One turn: what is due now, and the way to where the clock is being moved.
      # @return [Boolean] whether anything happened
      def turn
        happened = @worker.send_tests(@clock.now).positive?
        Records::TakingTurns.with(TURN) { play } || happened
      end

      # @param target [Time]
      def play_to(target)
        settle(@clock.now)
        while !@stop.call && (at = next_thing) && at <= target
          settle(@clock.move_to(at), upto: [at + BATCH_SECONDS, target].min)
        end
        return if @stop.call

        settle(@clock.move_to(target))
      end

      private

      # @return [Boolean] whether anything happened
      def play
        target = @clock.target or return settle(@clock.now)
        wait_for_others
        play_to(target)
        @clock.arrive(target) unless @stop.call
        true
      end

      # Once the clock is to move, nobody else claims any more (Clock#stands_at?).
      def wait_for_others
        deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + OTHERS_SECONDS
        IO.select(nil, nil, nil, LOOK_SECONDS) while @worker.others_send? && Process.clock_gettime(Process::CLOCK_MONOTONIC) < deadline
      end

      # Everything that is due at this instant, until nothing is.
      def settle(now, upto: now)
        sent = @worker.dispatch_due(now, upto: upto)
        played = 0
        while !@stop.call && (kind = @reactions.play_one(now))
          played += 1
          @worker.take_in(now) if kind == "mail"
        end
        sent + played + @worker.take_in(now) > 0
      end

      # A delivery that is due but cannot go (somebody else holds it) must not stop the clock.
      def next_thing
        now = @clock.now
        [@worker.next_due(after: now), @reactions.next_at].compact.min
      end
    end
  end
end
