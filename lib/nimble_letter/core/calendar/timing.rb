# frozen_string_literal: true

require "zlib"

module NimbleLetter
  module Core
    module Calendar
      # When a step is due: so long after the step before (or after joining), inside a window of the day, on a working day.
      class Timing
        UNITS = %w[minutes hours days working_days weeks].freeze
        SECONDS = {"minutes" => 60, "hours" => 3600}.freeze
        DAY_MINUTES = 24 * 60
        SHORTEST_WINDOW = 15 # minutes; less leaves no room to space letters

        attr_reader :amount, :unit, :from_minute, :to_minute, :zone

        # @param amount [Integer] 0..365
        # @param unit [String] one of UNITS
        # @param from_minute [Integer] the window opens, minutes after midnight
        # @param to_minute [Integer] it shuts, end excluded
        # @param zone [String] "theirs" or "ours"
        # @raise [Invalid]
        def initialize(amount: 0, unit: "working_days", from_minute: 540, to_minute: 690, zone: "theirs")
          @amount, @unit, @from_minute, @to_minute, @zone = amount, unit, from_minute, to_minute, zone
          check
          freeze
        end

        # @param base [Time] UTC: when the member joined or the step before went out
        # @param their_zone [TZInfo::Timezone]
        # @param our_zone [TZInfo::Timezone]
        # @param calendar [WorkCalendar]
        # @param seed [Integer] spaces letters unevenly over the window; the same seed gives the same minute
        # @return [Time] UTC, inside an opening of the window and never before `base`
        def due(base, their_zone:, our_zone:, calendar:, seed: 0)
          zone_in_use = (zone == "theirs") ? their_zone : our_zone
          return next_opening(base + amount * SECONDS[unit], zone_in_use, calendar) if SECONDS.key?(unit)

          joined_on, minute = Zones.local(zone_in_use, base)
          date = day_after(joined_on, calendar)
          return slot(date, from_minute, seed, zone_in_use) if date > joined_on
          # The same day: what is left of the window, or the next working day.
          return slot(date, [minute + 1, from_minute].max, seed, zone_in_use) if to_minute - [minute, from_minute].max > SHORTEST_WINDOW

          slot(calendar.on_or_after(date + 1), from_minute, seed, zone_in_use)
        end

        # @return [Time] UTC: `instant` when the window is open then, else its next opening
        def next_opening(instant, zone_in_use, calendar)
          date, minute = Zones.local(zone_in_use, instant)
          if calendar.working_day?(date)
            return instant if minute >= from_minute && minute < to_minute
            return Zones.instant(zone_in_use, date, from_minute) if minute < from_minute
          end
          Zones.instant(zone_in_use, calendar.on_or_after(date + 1), from_minute)
        end

        def to_h = {amount: amount, unit: unit, from_minute: from_minute, to_minute: to_minute, zone: zone}

        def ==(other) = other.is_a?(Timing) && other.to_h == to_h
        alias_method :eql?, :==

        def hash = to_h.hash

        private

        def day_after(date, calendar)
          case unit
          when "days" then calendar.on_or_after(date + amount)
          when "weeks" then calendar.on_or_after(date + amount * 7)
          when "working_days" then calendar.after(date, amount)
          end
        end

        # Knuth's multiplicative hash spreads neighbouring numbers evenly over the window.
        def slot(date, first_minute, seed, zone_in_use)
          seconds = (to_minute - first_minute) * 60
          offset = ((seed * 2_654_435_761) & 0xFFFFFFFF) * seconds >> 32
          Zones.instant(zone_in_use, date, first_minute + offset / 60, offset % 60)
        end

        def check
          wrong("a delay is a whole number from 0 to 365", "amount") unless amount.is_a?(Integer) && (0..365).cover?(amount)
          wrong("a delay is counted in #{UNITS.join(", ")}", "unit") unless UNITS.include?(unit)
          unless [from_minute, to_minute].all?(Integer) && from_minute >= 0 && to_minute <= DAY_MINUTES &&
              to_minute - from_minute >= SHORTEST_WINDOW
            wrong("the window needs at least #{SHORTEST_WINDOW} minutes between opening and shutting", "to_minute")
          end
          wrong("the window follows their clock or ours", "zone") unless %w[theirs ours].include?(zone)
        end

        def wrong(message, at) = raise(Invalid.new("About the timing: #{message}.", code: :timing_unclear, at: at))
      end
    end
  end
end
