# frozen_string_literal: true

require "tzinfo"

module NimbleLetter
  module Core
    module Calendar
      # Wall clocks. Converts between instants and local dates and minutes, summer time included.
      module Zones
        DEFAULT = "Europe/London"

        # @return [TZInfo::Timezone] the firm's own for an unknown name
        def self.fetch(name)
          TZInfo::Timezone.get(name || DEFAULT)
        rescue TZInfo::InvalidTimezoneIdentifier
          TZInfo::Timezone.get(DEFAULT)
        end

        def self.known?(name) = TZInfo::Timezone.all_identifiers.include?(name)

        QUARTER = 15 * 60 # seconds; the clocks of every zone in use change on a multiple of it
        DAY = 86_400
        UNIX_EPOCH_JD = 2_440_588
        MOST_KEPT = 200_000

        # @param instant [Time]
        # @return [Array(Date, Integer)] local date and minute of the day
        def self.local(zone, instant)
          local = instant.to_i + offset(zone, instant.to_i)
          [day(local / DAY), local % DAY / 60]
        end

        # @param instant [Time]
        # @return [Integer] the local date, in days since 1 January 1970
        def self.day_number(zone, instant)
          seconds = instant.to_i
          (seconds + offset(zone, seconds)) / DAY
        end

        # @return [Date]
        def self.day(number)
          @days ||= {}
          @days.clear if @days.size > MOST_KEPT
          @days[number] ||= Date.jd(number + UNIX_EPOCH_JD)
        end

        # @param date [Date]
        # @return [Integer] see .day_number
        def self.number(date) = date.jd - UNIX_EPOCH_JD

        # @param minute [Integer] of the local day
        # @return [Time] UTC. An hour that happens twice is taken the first time; one that is left out
        #   (clocks go forward) is taken as the hour after.
        def self.instant(zone, date, minute, second = 0)
          local = number(date) * DAY + minute * 60 + second
          offset = offset(zone, local - DAY)
          # Far from a change of clocks there is one answer, and it is quick; a rehearsal asks for a great many.
          return Time.at(local - offset).utc if offset == offset(zone, local + DAY)

          near_a_change(zone, Time.at(local).utc)
        end

        def self.near_a_change(zone, local)
          zone.local_to_utc(local) { |periods| periods.first }
        rescue TZInfo::PeriodNotFound
          zone.local_to_utc(local + 3600) { |periods| periods.first }
        end
        private_class_method :near_a_change

        # Seconds east of UTC. The same question always has the same answer, so answers are kept.
        def self.offset(zone, seconds)
          @offsets ||= Hash.new { |all, key| all[key] = {} }
          kept = @offsets[zone.identifier]
          kept.clear if kept.size > MOST_KEPT
          kept[seconds / QUARTER] ||= zone.period_for_utc(Time.at(seconds).utc).observed_utc_offset
        end
        private_class_method :offset
      end
    end
  end
end
