# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # Before one step, all those of whom the same is known: what the machine decided for the first of them who came on a day is so for
      # whoever comes on that day, but for the seed that spaces what they get within a window. It is meant for one piece of work: it
      # keeps what was decided.
      class Stand
        # What comes next for all of them. decision: that of the first, with the first one's time; span: of Calendar::Timing
        Leg = Struct.new(:decision, :span) do
          # @param seed [Integer] of Known
          # @return [Integer] when it is due for one of them, in seconds since 1970
          def at(seed) = span.seconds(Machine.spacing(seed, decision.step.id))
        end

        # Of a day on which somebody who comes may still have what is due the same day. opens, shuts: its window, in seconds since 1970;
        # before, after: what is decided for those who come before it opens, or when too little is left of it; within: the decision for
        # those who come between
        Today = Struct.new(:opens, :shuts, :before, :within, :after)
        MOST_AT_ONCE = 500
        private_constant :Today, :MOST_AT_ONCE

        # @return [Steps::Letter, …]
        attr_reader :step
        # @return [Integer] see Happenings.bits: whoever has any of these, or will, is somebody for themselves here
        attr_reader :heeds

        # @param step [Steps::Letter, …]
        # @param zone [TZInfo::Timezone] by whose clock it goes
        # @param heeds [Integer]
        def initialize(step, zone, heeds)
          @step, @zone, @heeds = step, zone, heeds
          @days = Calendar::DayNumbers.new(zone)
          @by_day, @today, @at_once, @openings, @reactions = {}, {}, {}, {}.compare_by_identity, {}
        end

        # @param came [Integer] to the step, in seconds since 1970
        # @return [Leg, nil] nil: nobody like them has come then
        def leg(came)
          day = @days.at(came)
          @by_day[day] || @at_once[came] || ((today = @today[day]) && leg_today(today, came))
        end

        # @param came [Integer]
        # @param span [Calendar::Timing::Span] over which the decision is due for those who came then
        def keep(came, decision, span)
          leg = Leg.new(decision, span)
          day = @days.at(came)
          return @by_day[day] = leg if span.all_day

          today = @today.fetch(day) { @today[day] = window(day) } or return at_once(came, leg)
          case part(today, came)
          when :before then today.before = leg
          when :after then today.after = leg
          when :within then today.within = decision
          end
        end

        # @param at [Integer] at which its window is open, or had been on that day
        # @return [Integer] when it shuts; at or before that instant, where one can't tell
        def shuts(at) = timing.window(@zone, Calendar::Zones.day(@days.at(at)))&.last || at

        # @param event [Known::Event] that comes to somebody who is alike, while they wait
        # @yieldreturn [Array(Object, Time)] what the machine decides by it, and when
        # @return [Array(Steps::Lane, Integer), nil] the lane they take by it, and so many seconds later; nil: something else comes of it
        def reaction(event)
          sign = [event.kind, event.step_id, event.link, event.outcome]
          @reactions.fetch(sign) do
            decision, at = yield
            takes = decision.is_a?(Decisions::Take) && decision.because == event && decision.at == event.at
            @reactions[sign] = ([decision.lane, (at - event.at).ceil.to_i] if takes)
          end
        end

        # @param from [Integer] seconds since 1970, the same for many
        # @param hours [Object, nil] of the mailbox
        # @yieldreturn [Calendar::Timing::Span, nil] over which the step is open then; nil: no even stretch
        # @return [Calendar::Timing::Span, nil]
        def opening(from, hours)
          kept = (@openings[hours] ||= {})
          kept.fetch(from) { kept[from] = yield }
        end

        private

        def timing = @step.is_a?(Steps::Fork) ? @step.within : @step.timing

        # @return [Today, nil] nil: the clocks change within its window
        def window(day)
          opens, shuts = timing.window(@zone, Calendar::Zones.day(day))
          Today.new(opens, shuts) if opens
        end

        # @return [Symbol, nil] see Calendar::Timing#part
        def part(today, came) = timing.part(timing.from_minute + (came - today.opens).div(60))

        # Many come at the same instant, or each at another.
        def at_once(came, leg)
          @at_once.clear if @at_once.size >= MOST_AT_ONCE
          @at_once[came] = leg
        end

        # What is left of the window begins with the next minute.
        def leg_today(today, came)
          case part(today, came)
          when :before then today.before
          when :after then today.after
          when :within
            opens = came / 60 * 60 + 60
            span = Calendar::Timing::Span.new(opens, today.shuts - opens, nil, false)
            at_once(came, Leg.new(today.within, span)) if today.within
          end
        end
      end
    end
  end
end
