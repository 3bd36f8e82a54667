# frozen_string_literal: true

module NimbleLetter
  module Post
    # Sending lanes: each mailbox has one, and tests have one of their own, so that a mail server that hangs holds up nobody
    # but those who write through it. A round waits for the lanes as long as they get on; one that stalls is left to itself
    # and taken up again when it is free.
    class Lanes
      MOST = 8
      # So long without a single letter done, and nobody waits for the lane any more.
      STALLED_SECONDS = 5
      LOOK_SECONDS = 0.05
      # When told to end, a lane may finish the letter it is at; then its line is broken off, and what became of the letter
      # is written down.
      LAST_LETTER_SECONDS = 1
      LAST_WORDS_SECONDS = 2

      # What is under way on one lane.
      class Lane
        attr_reader :thread, :handled

        def initialize(hand, clock)
          @hand, @clock, @handled = hand, clock, 0
          @seen = clock.call
        end

        # @yield the hand and a note to be taken after each letter
        def start(report)
          @thread =
            Thread.new do
              @handled = yield(@hand, -> { got_on })
            rescue *Records::Patience::AWAY, *Work::PutAside::OF_ONE_THING => error
              report.call(error)
            end
          self
        end

        def done? = !@thread.alive?

        def stalled?(seconds) = @clock.call - @seen > seconds

        def break_off = @hand.break_off

        private

        def got_on = @seen = @clock.call
      end

      # @param hands [#call] makes what works on a lane, by its key; answers to break_off
      # @param stop [#call] whether to end
      # @param report [#call] gets what a lane raised
      # @param clock [#call] seconds that only grow
      def initialize(
        hands,
        stop: -> { false },
        report: ->(error) { Log.error("a sending lane failed", error) },
        clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
      )
        @make, @stop, @report, @clock = hands, stop, report, clock
        @hands = {}
        @busy = {}
      end

      # Works on each key that has no lane under way, and waits as long as it gets on.
      # @param keys [Array] what has something to do
      # @yield key, hand, and a check to be called before each letter: true means to end
      # @return [Integer] letters handled by those that came to an end
      def run(keys, &work)
        clear
        waiting = keys.reject { |key| @busy.key?(key) }
        handled = 0
        until waiting.empty? && settled?
          break if @stop.call

          begin_with(waiting.shift, &work) while waiting.any? && @busy.size < MOST
          break if waiting.any? && all_stalled?

          look unless settled?
          handled += clear
        end
        handled + clear
      end

      # @return [Boolean] whether a lane that was left to itself is still under way
      def busy? = @busy.each_value.any? { |lane| !lane.done? }

      # Ends every lane. What became of each letter is written down first, if that can be known at all.
      def close
        wait(LAST_LETTER_SECONDS)
        @busy.each_value(&:break_off)
        wait(LAST_WORDS_SECONDS)
      end

      private

      def begin_with(key)
        hand = @hands[key] ||= @make.call(key)
        @busy[key] =
          Lane.new(hand, @clock).start(@report) do |worker, got_on|
            yield(key, worker, -> { got_on.call && @stop.call })
          end
      end

      # @return [Integer] letters of lanes that came to their end
      def clear
        done, @busy = @busy.partition { |_, lane| lane.done? }.map(&:to_h)
        done.each_value.sum(&:handled)
      end

      # Until one of them ends, or for a moment.
      def look = @busy.each_value.find { |lane| !lane.done? }&.thread&.join(LOOK_SECONDS)

      # Those that are under way are not waited for.
      def settled? = @busy.values.all? { |lane| lane.done? || lane.stalled?(STALLED_SECONDS) }

      def all_stalled? = @busy.size >= MOST && settled?

      def wait(seconds)
        deadline = @clock.call + seconds
        IO.select(nil, nil, nil, LOOK_SECONDS) until @busy.each_value.all?(&:done?) || @clock.call > deadline
      end
    end
  end
end
