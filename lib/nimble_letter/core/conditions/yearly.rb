# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # Days of the year, for dates that come round: a day is month * 100 + day, so 12 May is 512.
      module Yearly
        LEAP_DAY = 229
        DAY_BEFORE = 228

        # @param first [Date]
        # @param days [Integer] 1 to 366
        # @return [Array<Range<Integer>>] one range, or two over the turn of the year. In a year without 29 February
        #   those born on it are counted with the 28th.
        def self.ranges(first, days)
          return [101..1231] if days >= 365

          last = first + days - 1
          from, upto = number(first), number(last)
          upto = LEAP_DAY if upto == DAY_BEFORE && !last.leap?
          (from <= upto) ? [from..upto] : [from..1231, 101..upto]
        end

        def self.number(date) = date.month * 100 + date.day
      end
    end
  end
end
