# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # Which lane of a fork somebody takes, and when. Lanes are asked in their order; nobody goes on before the limit as long as a
      # lane above could still be taken. A failed address takes its lane at once, wherever that stands: nothing can come any more of the
      # letters that the lanes above wait for.
      class Forking
        # Signs of a machine come within this time of a click.
        SETTLED_SECONDS = 10

        # @param fork [Steps::Fork]
        # @param limit [Calendar::Timing::Due, nil] when reactions are waited for no longer; nil: they are not
        def initialize(fork, limit, place, known)
          @fork, @limit, @place, @known = fork, limit, place, known
        end

        # @return [Decisions::Take, Decisions::Wait]
        def decide(now)
          lane, failure = failed
          return in_turn(now) unless failure

          earlier = before(failure).in_turn(failure.at)
          (earlier.is_a?(Decisions::Take) && earlier.at < failure.at) ? earlier : take(lane, failure, false, now)
        end

        # @return [Boolean] whether a lane waits for this
        def awaits?(kind) = @fork.lanes.any? { |lane| lane.test.is_a?(Steps::Reaction) && lane.test.kind == kind }

        protected

        # @return [Decisions::Take, Decisions::Wait] by the lanes in their order
        def in_turn(now)
          over = @limit.nil? || now >= @limit.at
          settling = nil
          @fork.lanes.each do |lane|
            next if lane.test.nil?

            taken = took(lane.test)
            if taken && taken != true && (ready = settled_at(taken)) > now
              settling = [settling, ready].compact.min
            elsif taken
              return settling ? wait(settling) : take(lane, taken, over, now)
            end
            # A lane that may still be taken stands before all below it.
            break unless over
          end
          return wait(settling || @limit.at) unless over && settling.nil?

          Decisions::Take.new(step: @fork, lane: @fork.lanes.find { |lane| lane.test.nil? }, at: @limit&.at || now)
        end

        private

        # @return [Array(Steps::Lane, Known::Event), nil] the lane for it, where reactions are waited for
        def failed
          return unless @limit && @known.events.any? { |event| event.kind == "bounced" }

          lanes = @fork.lanes.select { |lane| lane.test.is_a?(Steps::Reaction) && lane.test.kind == "bounced" }
          lanes.filter_map { |lane| (event = took(lane.test)) && [lane, event] }.min_by { |_, event| event.at }
        end

        # @return [Forking] as things stood before that event
        def before(event)
          known = @known.plus(events: @known.events.take_while { |other| other.id != event.id })
          Forking.new(@fork, @limit, @place, known)
        end

        def take(lane, taken, over, now)
          because = (taken unless taken == true)
          at = (over && @limit) ? @limit.at : [because&.at, @place.base, (now unless because)].compact.max
          Decisions::Take.new(step: @fork, lane: lane, at: at, because: because)
        end

        # Somebody with an earlier lane open waits for it, or until the limit.
        def wait(until_at) = Decisions::Wait.new(step: @fork, until_at: until_at, for: :reaction, due: @limit)

        def settled_at(event) = (event.kind == "clicked") ? event.at + SETTLED_SECONDS : event.at

        # @return [Known::Event, true, nil]
        def took(test)
          return @known.holds?(test.condition) || nil if test.is_a?(Steps::Holds)

          @known.events.find { |event| counts?(event, test) }
        end

        def counts?(event, test)
          event.kind == test.kind && !event.by_machine && !@place.spent.include?(event.id) && (@limit.nil? || event.at <= @limit.at) &&
            (test.step_id.nil? || test.step_id == event.step_id) && (test.link.nil? || test.link == event.link) &&
            (test.outcome.nil? || test.outcome == event.outcome)
        end
      end
    end
  end
end
