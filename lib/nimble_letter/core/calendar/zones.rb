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

        # @return [Array(Date, Integer)] local date and minute of the day
        def self.local(zone, instant)
          time = zone.utc_to_local(instant.getutc)
          [Date.new(time.year, time.month, time.day), time.hour * 60 + time.min]
        end

        # @param minute [Integer] of the local day
        # @return [Time] UTC. An hour that happens twice is taken the first time; one that is left out
        #   (clocks go forward) is taken as the hour after.
        def self.instant(zone, date, minute, second = 0)
          local = Time.utc(date.year, date.month, date.day, minute / 60, minute % 60, second)
          zone.local_to_utc(local) { |periods| periods.first }
        rescue TZInfo::PeriodNotFound
          zone.local_to_utc(local + 3600) { |periods| periods.first }
        end
      end
    end
  end
end
