# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # The one journey: (plan, place, events, now) to a decision. It keeps nothing and looks at no clock;
      # sending and rehearsing run the same code and get the same answers.
      class Machine
        # Where a member is: `passed` steps are behind, `base` is when the last of them went out (or the joining).
        Place = Struct.new(:passed, :base)
        # Something that happened to the member in this sequence.
        Event = Struct.new(:kind, :at)

        # @param plan [Plan]
        # @param calendar [Calendar::WorkCalendar]
        # @param our_zone [TZInfo::Timezone]
        def initialize(plan, calendar:, our_zone:)
          @plan, @calendar, @our_zone = plan, calendar, our_zone
          freeze
        end

        # @param place [Place]
        # @param events [Array<Event>] of this membership
        # @param now [Time] UTC
        # @param their_zone [TZInfo::Timezone]
        # @param seed [Integer] the member's own, see Timing#due
        # @return [Decisions::Send, Decisions::WaitUntil, Decisions::Leave, Decisions::Finish]
        def decide(place, events, now, their_zone:, seed:)
          leaving = events.find { |event| @plan.leaves_on?(event.kind) }
          return Decisions::Leave.new(leaving.kind, leaving.at) if leaving

          step = @plan.steps[place.passed]
          return Decisions::Finish.new(place.base) unless step

          due = due(step, place, their_zone, seed)
          (due <= now) ? Decisions::Send.new(step, due) : Decisions::WaitUntil.new(due, step)
        end

        # Every step still ahead with the time it will go out if nothing happens in between.
        # @return [Array<Array(Step, Time)>]
        def outlook(place, their_zone:, seed:)
          base = place.base
          @plan.steps.drop(place.passed).each_with_index.map do |step, i|
            base = due(step, Place.new(place.passed + i, base), their_zone, seed)
            [step, base]
          end
        end

        private

        # Each step has its own minute within the window, so that letters do not always come at 9:24.
        def due(step, place, their_zone, seed)
          step.timing.due(place.base, their_zone: their_zone, our_zone: @our_zone, calendar: @calendar, seed: seed * 31 + place.passed)
        end
      end
    end
  end
end
