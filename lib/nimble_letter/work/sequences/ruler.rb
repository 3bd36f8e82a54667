# frozen_string_literal: true

module NimbleLetter
  module Work
    # A plan on the days of the firm's calendar: on which day each step falls for somebody who joins at a given time.
    class Ruler
      # @param plan [Core::Journey::Plan]
      # @param hours [Core::Calendar::Hours, nil] in which the mailbox sends that all of its letters come from; nil: in all, or several do
      def initialize(plan, moment, hours: nil)
        @plan, @moment, @hours = plan, moment, hours
      end

      # @param joined [Time]
      # @return [Hash{Integer=>Date}] by step, as if each is done when it is due; the steps of a lane as if that lane were taken
      def dates(joined)
        @known = Core::Journey::Known.new(their_zone: @moment.firm.zone, seed: 1)
        @joined, @days = joined, {}
        walk(@plan.steps, joined)
        @days
      end

      # @return [Array<Date>] days without post from the first step to the last
      def days_off(joined)
        dates = dates(joined).values
        dates.empty? ? [] : (dates.min..dates.max).reject { |date| @moment.calendar.working_day?(date) }
      end

      private

      # @return [Time] when the last of them is done
      def walk(steps, base)
        steps.inject(base) do |at, step|
          place = Core::Journey::Place.new(step_id: step.id, base: at, joined: @joined)
          done = step.is_a?(Core::Journey::Steps::Fork) ? fork(step, place) : due(step, place)
          @days[step.id] = @moment.firm.today(done) unless step.is_a?(Core::Journey::Steps::Fork)
          done
        end
      end

      # Nobody's own date is known here: such a step stands where the one before does.
      def due(step, place)
        due = @moment.machine.due(step, place, @known)
        return place.base if due.nil? || (due.late && step.timing.late == "skip")

        step.is_a?(Core::Journey::Steps::Letter) ? leaves(step, place, due.at) : due.at
      end

      # As the post does: it waits for the hours to open, and if that is too late, for its window in them.
      def leaves(step, place, at)
        return at if @hours.nil? || @hours.open?(at)

        opens = Time.at(@hours.next_open(at.to_i)).utc
        return opens if opens - at <= Core::Sending::Room::LATE_SECONDS

        @moment.machine.opening(step, place, @known, opens, @hours).at
      end

      # A reaction may come at once; all else goes on at the limit.
      def fork(fork, place)
        @days[fork.id] = @moment.firm.today(place.base)
        limit = @moment.machine.limit(fork, place, @known)&.at || place.base
        ends = fork.lanes.map do |lane|
          done = walk(lane.steps, lane.test.is_a?(Core::Journey::Steps::Reaction) ? place.base : limit)
          lane.comes_back ? done : place.base
        end
        [limit, *ends].max
      end
    end
  end
end
