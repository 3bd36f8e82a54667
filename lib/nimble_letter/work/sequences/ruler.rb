# frozen_string_literal: true

module NimbleLetter
  module Work
    # A plan on the days of the firm's calendar: on which day each step falls for somebody who joins at a given time.
    class Ruler
      # @param plan [Core::Journey::Plan]
      def initialize(plan, moment)
        @plan, @moment = plan, moment
      end

      # @param joined [Time]
      # @return [Array<Date>] one per step
      def dates(joined)
        known = Core::Journey::Known.new(their_zone: @moment.firm.zone, seed: 1)
        letters = Core::Journey::Path.new(@moment.machine, @plan, known).letters(@plan.entrance(joined), joined)
        days = letters.to_h { |step, at| [step.id, @moment.firm.today(at)] }
        # A step around a date of somebody's own stands where the one before does: nobody's date is known here.
        last = @moment.firm.today(joined)
        @plan.all.map { |step| last = days.fetch(step.id, last) }
      end

      # @return [Array<Date>] days without post from the first step to the last
      def days_off(joined)
        dates = dates(joined)
        dates.empty? ? [] : (dates.first..dates.last).reject { |date| @moment.calendar.working_day?(date) }
      end
    end
  end
end
