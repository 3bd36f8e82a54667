# frozen_string_literal: true

module NimbleLetter
  module Core
    module Calendar
      # How a due time came about, in parts that add up: counted from an instant or a day, so much later, what that comes to, and where the
      # next opening of the window lies. "Why then?" is told from it.
      class Account
        # from: Time or Date. amount, unit: as of Timing. spacing_seconds: added to minutes and hours, so that letters do not leave
        # together. reached: what all this comes to, a Time for minutes and hours, else a Date. moved, late, at: as of Timing::Due
        attr_reader :from, :amount, :unit, :spacing_seconds, :reached, :moved, :late, :at

        # @param timing [Timing]
        # @param due [Timing::Due] by that timing
        # @param about [Timing::About] by which it was reckoned
        def initialize(timing, due, about)
          @from, @moved, @late, @at = due.from, due.moved, due.late, due.at
          # A day of the calendar is meant itself.
          @amount, @unit = (timing.counted == "date") ? [0, "days"] : [timing.amount, timing.unit]
          seconds = Timing::SECONDS[unit]
          @spacing_seconds = seconds ? timing.spacing_seconds(about.seed) : 0
          @reached = seconds ? from + amount * seconds + spacing_seconds : later(day(timing, about, from), timing, about)
          # On the first day that fits the hours may be over when they come to the step.
          @day = timing.fitting(reached.is_a?(Date) ? reached : Zones.local(timing.zone_in_use(about), reached).first, about.calendar)
          @hours_over = moved != :away && !late && day(timing, about, at) > @day
          freeze
        end

        # @return [Boolean] whether its hours were over on the first day that fits
        def hours_over? = @hours_over

        # @return [Boolean] whether it is due at the very instant or day that was counted
        def straight? = moved.nil? && !late

        private

        def later(day, timing, about) = (timing.counted == "date") ? day : timing.shifted(day, about.calendar)

        def day(timing, about, at) = at.is_a?(Date) ? at : Zones.local(timing.zone_in_use(about), at).first
      end
    end
  end
end
