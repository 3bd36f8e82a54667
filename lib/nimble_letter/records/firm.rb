# frozen_string_literal: true

require "holidays"

module NimbleLetter
  module Records
    # The firm itself: its name, postal address, clock and days off.
    class Firm
      KEY = "firm"
      # Holidays are looked up for these years around now; plans reach no further.
      YEARS = 2

      attr_reader :name, :postal_address, :time_zone, :holidays_of

      # @return [Firm] as settings have it
      def self.current
        new(**JSON.parse(Records.db[:settings].where(key: KEY).get(:value) || "{}", symbolize_names: true))
      end

      def self.save(**values) = Records.db[:settings].insert(key: KEY, value: JSON.generate(values))

      def initialize(name: "Our firm", postal_address: "", time_zone: Core::Calendar::Zones::DEFAULT, holidays_of: "gb_eng")
        @name, @postal_address, @time_zone, @holidays_of = name, postal_address, time_zone, holidays_of
      end

      def zone = Core::Calendar::Zones.fetch(time_zone)

      # @param now [Time]
      # @return [Date] here
      def today(now) = Core::Calendar::Zones.local(zone, now).first

      # @param now [Time]
      # @return [Core::Calendar::WorkCalendar]
      def calendar(now)
        @calendars ||= {}
        @calendars[now.year] ||= begin
          from, to = Date.new(now.year - 1, 1, 1), Date.new(now.year + YEARS, 12, 31)
          Core::Calendar::WorkCalendar.new(holidays: Holidays.between(from, to, holidays_of.to_sym).map { |day| day[:date] })
        end
      end
    end
  end
end
