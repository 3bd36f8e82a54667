# frozen_string_literal: true

module NimbleLetter
  module Core
    module Calendar
      # A day that comes round every year.
      module Anniversary
        # @param day [Date]
        # @param year [Integer]
        # @return [Date] the 29th of February is the 28th in other years
        def self.in_year(day, year)
          Date.valid_date?(year, day.month, day.day) ? Date.new(year, day.month, day.day) : Date.new(year, day.month, -1)
        end
      end
    end
  end
end
