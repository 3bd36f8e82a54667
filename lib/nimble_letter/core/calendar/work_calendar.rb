# frozen_string_literal: true

require "set"
require "date"

module NimbleLetter
  module Core
    module Calendar
      # Which days are worked. Weekends, holidays and days the firm is closed are not.
      class WorkCalendar
        WEEKDAYS = (1..5)
        SEARCH_DAYS = 60 # no firm shuts for longer
        MOST_KEPT = 3000 # days, for each count

        # Every day is free for so long that nothing can be planned.
        class NoWorkingDay < Error; end

        # @param holidays [Enumerable<Date>]
        # @param closed [Enumerable<Range<Date>>] when nobody works, first and last day included
        def initialize(holidays: [], closed: [])
          @holidays = holidays.to_set.freeze
          @closed = closed.map(&:freeze).freeze
          # Many members ask about the same few days; the same question always has the same answer.
          @counted = {}
          freeze
        end

        def working_day?(date) = WEEKDAYS.cover?(date.wday) && !@holidays.include?(date) && @closed.none? { |days| days.cover?(date) }

        # @yieldreturn [Boolean] whether such a working day will do
        # @return [Date] this day if it is worked, else the next that is
        # @raise [NoWorkingDay]
        def on_or_after(date, &wanted) = search(date, 1) { |day| working_day?(day) && (wanted.nil? || yield(day)) }

        # @return [Date] this day if it is worked, else the one before that is
        # @raise [NoWorkingDay]
        def on_or_before(date) = search(date, -1) { |day| working_day?(day) }

        # @param count [Integer] working days to count, back when negative; 0 is the day itself or the next one worked
        # @return [Date] always a working day
        def after(date, count)
          known = @counted[count] ||= {}
          known.clear if known.size > MOST_KEPT
          known[date.jd] ||= count.negative? ? before(date, -count) : counted(date, count)
        end

        private

        def counted(date, count)
          day = on_or_after(date)
          count.times { day = on_or_after(day + 1) }
          day
        end

        def before(date, count)
          day = date
          count.times { day = on_or_before(day - 1) }
          day
        end

        def search(date, direction)
          (0..SEARCH_DAYS).each do |n|
            day = date + n * direction
            return day if yield(day)
          end
          raise NoWorkingDay.new("No working day within #{SEARCH_DAYS} days of #{date}.", code: :no_working_day, data: {from: date})
        end
      end
    end
  end
end
