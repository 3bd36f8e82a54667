# frozen_string_literal: true

require "holidays"

module NimbleLetter
  module Records
    # The firm itself: its name, postal address, clock and days off.
    class Firm
      KEY = "firm"
      # Holidays are looked up for these years around now; plans reach no further.
      YEARS = 2

      attr_reader :name, :postal_address, :time_zone, :holidays_of, :guard, :look, :lookups, :plus_tags, :date_order, :closed

      # @return [Firm] as settings have it
      def self.current
        new(**(stored || {}))
      end

      # @return [Hash{Symbol=>Object}] what #initialize takes
      def self.settings = stored || {}

      def self.stored = Records.db[:settings].where(key: KEY).get(:value)&.then { |text| JSON.parse(text, symbolize_names: true) }
      private_class_method :stored

      def self.save(**values)
        values = (stored || {}).merge(values)
        text = JSON.generate(values)
        Records.db[:settings].on_duplicate_key_update(value: text).insert(key: KEY, value: text)
      end

      # @param closed [Array<Hash>] when nobody works: :from and :to, ISO 8601, the last day included, and :words
      # @param date_order [String] of Core::Fields::Habit::ORDERS, how days are shown and typed
      # @param plus_tags [String] of Core::SameAddress::PLUS_TAGS
      # @param look [Hash, nil] see Core::Letters::Look
      # @param lookups [Hash] settings of outside services by name, see Lookups
      # @param guard [Hash, nil] the most letters one person may have in so many days: {letters:, days:}; nil for no guard
      def initialize(
        name: "Our firm",
        postal_address: "",
        time_zone: Core::Calendar::Zones::DEFAULT,
        holidays_of: "gb_eng",
        guard: {letters: 5, days: 7},
        look: nil,
        lookups: {},
        plus_tags: "different",
        date_order: "dmy",
        closed: []
      )
        @closed = closed
        @name, @postal_address, @time_zone, @holidays_of = name, postal_address, time_zone, holidays_of
        @look = Core::Letters::Look.new(look&.transform_keys(&:to_s))
        @lookups, @plus_tags, @date_order = lookups, plus_tags, date_order
        @guard = guard && Core::Sieve::Guard.new(guard[:letters], guard[:days])
      end

      def zone = Core::Calendar::Zones.fetch(time_zone)

      # @param now [Time]
      # @return [Date] here
      def today(now) = Core::Calendar::Zones.local(zone, now).first

      # @param now [Time]
      # @param country [String, nil] whose holidays count, as people write it; nil, and where none are known, our own
      # @return [Core::Calendar::WorkCalendar]
      def calendar(now, country = nil) = self.class.calendar(place(country), now.year, closed)

      # Days off depend on nothing but the place, the year and when we are closed, and take long to look up.
      def self.calendar(place, year, closed)
        @calendars ||= {}
        @calendars[[place, year, closed]] ||= begin
          # Where a holiday falls on a day off, the day it is observed on is free. That may be in the year before: 31 December 2027 is
          # New Year's Day 2028 in the US.
          span = [Date.new(year - 1, 1, 1), Date.new(year + YEARS + 1, 1, 31), place.to_sym]
          days = Holidays.between(*span) + Holidays.between(*span, :observed)
          shut = closed.map { |one| Date.iso8601(one[:from])..Date.iso8601(one[:to]) }
          Core::Calendar::WorkCalendar.new(holidays: days.map { |day| day[:date] }, closed: shut)
        end
      end

      def self.places = @places ||= Holidays.available_regions.map(&:to_s).to_set

      private

      # Our own may be those of a part of a country.
      def place(country)
        code = country && Core::Calendar::Countries.code(country)&.downcase
        return holidays_of if code.nil? || holidays_of.start_with?(code) || !self.class.places.include?(code)

        code
      end
    end
  end
end
