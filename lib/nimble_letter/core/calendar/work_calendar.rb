# frozen_string_literal: true

require "set"
require "date"

module NimbleLetter
  module Core
    module Calendar
      # Which days are worked. Weekends and the firm's holidays are not.
      class WorkCalendar
        WEEKDAYS = (1..5)
        SEARCH_DAYS = 60 # no firm shuts for longer

        # Every day is free for so long that nothing can be planned.
        class NoWorkingDay < Error; end

        # @param holidays [Enumerable<Date>]
        def initialize(holidays: [])
          @holidays = holidays.to_set.freeze
          freeze
        end

        def working_day?(date) = WEEKDAYS.cover?(date.wday) && !@holidays.include?(date)

        # @return [Date] this day if it is worked, else the next that is
        # @raise [NoWorkingDay]
        def on_or_after(date)
          (0..SEARCH_DAYS).each { |n| return date + n if working_day?(date + n) }
          raise NoWorkingDay.new("No working day within #{SEARCH_DAYS} days of #{date}.", code: :no_working_day, data: {from: date})
        end

        # @param count [Integer] working days to count; 0 is the day itself or the next one worked
        # @return [Date] always a working day
        def after(date, count)
          day = on_or_after(date)
          count.times { day = on_or_after(day + 1) }
          day
        end
      end
    end
  end
end
