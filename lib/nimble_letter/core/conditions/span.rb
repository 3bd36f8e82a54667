# frozen_string_literal: true

module NimbleLetter
  module Core
    module Conditions
      # A length of time in a condition: "30 days", "2 months". Both readers of a condition ask it where its time begins and ends.
      class Span
        UNITS = %w[days weeks months].freeze
        MOST = {"days" => 36_500, "weeks" => 5_200, "months" => 1_200}.freeze

        attr_reader :amount, :unit

        # @param amount [Integer]
        # @param unit [String] one of UNITS
        def initialize(amount, unit)
          @amount, @unit = amount, unit
          freeze
        end

        # @param today [Date]
        # @return [Range<Date>] today and the days before it, as many as the span is long
        def days_before(today) = (back(today) + 1)..today

        # @return [Range<Date>] today and the days after it
        def days_after(today)
          last = (unit == "months") ? today >> amount : today + days
          today..(last - 1)
        end

        # @param now [Time]
        # @param today [Date] the local date of that instant, by which months are counted
        # @return [Time] the instant the span began. Days are of 24 hours here: a thing happens at an instant.
        def instant_before(now, today) = now - ((unit == "months") ? (today - (today << amount)).to_i : days) * 86_400

        def ==(other) = other.is_a?(Span) && other.amount == amount && other.unit == unit
        alias_method :eql?, :==
        def hash = [amount, unit].hash

        # @return [String] "the last 30 days" without "the last"
        def to_s = (amount == 1) ? unit.delete_suffix("s") : "#{amount} #{unit}"

        private

        def days = (unit == "weeks") ? amount * 7 : amount

        def back(today) = (unit == "months") ? today << amount : today - days
      end
    end
  end
end
