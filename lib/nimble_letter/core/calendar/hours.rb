# frozen_string_literal: true

module NimbleLetter
  module Core
    module Calendar
      # The same hours of every day, by the clock of one zone: when a mailbox sends.
      class Hours
        # @param zone [TZInfo::Timezone]
        # @param from_minute [Integer] after midnight
        # @param to_minute [Integer] likewise, end excluded
        def initialize(zone, from_minute, to_minute)
          @zone, @from_minute, @to_minute = zone, from_minute, to_minute
          freeze
        end

        # @param instant [Time]
        def open?(instant) = next_open(instant.to_i) == instant.to_i

        # @param seconds [Integer] since 1970
        # @return [Integer] likewise: then, or when they open next
        def next_open(seconds)
          day, minute = Zones.local(@zone, seconds)
          return seconds if minute >= @from_minute && minute < @to_minute

          at((minute < @from_minute) ? day : day + 1, @from_minute).to_i
        end

        # @param seconds [Integer] since 1970, at which they are open
        # @return [Integer] likewise: they are open until then at least, the end excluded
        def open_until(seconds)
          shuts = seconds - seconds % 60 + (@to_minute - Zones.local(@zone, seconds).last) * 60
          cover?(seconds, shuts - 1) ? shuts : seconds
        end

        # @param opens [Integer] seconds since 1970
        # @param shuts [Integer] likewise, included
        # @return [Boolean] whether they are open all the while, on one day whose clocks do not change
        def cover?(opens, shuts)
          (day, first), (other, last) = [opens, shuts].map { |seconds| Zones.local(@zone, seconds) }
          day == other && first >= @from_minute && last < @to_minute && last - first == shuts / 60 - opens / 60
        end

        # @param opens [Time] of a window of a day at most
        # @param shuts [Time] its end, excluded
        # @return [Array(Time, Time), nil] the longest stretch of the window that lies in these hours; nil: none does
        def stretch(opens, shuts)
          first, last = [opens, shuts].map { |instant| Zones.local(@zone, instant).first }
          all = (first..last).map { |day| [[opens, at(day, @from_minute)].max, [shuts, at(day, @to_minute)].min] }
          all.select { |from, to| from < to }.max_by { |from, to| to - from }
        end

        private

        def at(day, minute) = Zones.instant(@zone, day, minute)
      end
    end
  end
end
