# frozen_string_literal: true

require "date"

module NimbleLetter
  module Core
    module Fields
      # A day whose year nobody said: a birthday on a card (RFC 6350 4.3.1). It is kept in a year in which nobody living was
      # born and which has a 29 February; wherever a day is said, such a one is said without its year.
      module Yearless
        YEAR = 1600
        # The last day of that year; what is compared by its year begins after it.
        LAST = Date.new(YEAR, 12, 31)
        TEXT = /\A--(\d{2})-?(\d{2})\z/

        # @param text [String] "--0415" or "--04-15"
        # @return [Date, nil]
        def self.parse(text)
          found = TEXT.match(text) or return
          Date.valid_date?(YEAR, *found[1..2].map(&:to_i)) ? Date.new(YEAR, *found[1..2].map(&:to_i)) : nil
        end

        # @param date [Date, nil]
        def self.is?(date) = date&.year == YEAR

        # @return [String] ISO 8601, of such a day as RFC 6350 has it
        def self.write(date) = is?(date) ? date.strftime("--%m-%d") : date.iso8601
      end
    end
  end
end
