# frozen_string_literal: true

module NimbleLetter
  module Core
    module MailReading
      # The day an automatic answer names as the last one away, or as the one its writer is back: "until 22 May", "back on Monday",
      # in the languages that months are known in. What could be two days is none.
      module ReturnDate
        # Said before the day, within a few words of it.
        SAID = %w[
          until till through back return returning returns
          bis zurück wieder erreichbar ab
          jusqu’au jusqu'au retour
          hasta regreso vuelvo vuelta
          fino rientro ritorno torno
          tot terug
          até regresso volto volta
          do wracam powrót wrócę
        ].freeze
        WORDS_BETWEEN = 6
        LONGEST_DAYS = 200 # who names a later day means something else
        MOST_LOOKED_AT = 4000 # characters
        WEEKDAYS = [
          %w[sunday monday tuesday wednesday thursday friday saturday],
          %w[sonntag montag dienstag mittwoch donnerstag freitag samstag],
          %w[dimanche lundi mardi mercredi jeudi vendredi samedi],
          %w[domingo lunes martes miércoles jueves viernes sábado],
          %w[domenica lunedì martedì mercoledì giovedì venerdì sabato],
          %w[zondag maandag dinsdag woensdag donderdag vrijdag zaterdag]
        ].freeze
        WORD = /[[:alpha:]’']+/
        ISO = /(?<!\d)(\d{4})-(\d{2})-(\d{2})(?!\d)/
        NUMBERS = %r{(?<![\d./])(\d{1,2})([./-])(\d{1,2})\2?(\d{4}|\d{2})?(?![\d/])}
        DAY_FIRST = /(?<!\d)(\d{1,2})(?:st|nd|rd|th|er|º|\.)?\s+(?:of\s+|de\s+|di\s+)?([[:alpha:]]{3,})\.?(?:,?\s+(?:de\s+)?(\d{4}))?/i
        MONTH_FIRST = /([[:alpha:]]{3,})\.?\s+(\d{1,2})(?:st|nd|rd|th)?(?!\d)(?:,?\s+(\d{4}))?/i

        # @param text [String]
        # @param on [Date] the day it came
        # @param order [String] "dmy" or "mdy", for days like 03/04
        # @return [Date, nil] after that day; the latest one named
        def self.find(text, on:, order: "dmy")
          text = text.to_s[0, MOST_LOOKED_AT].gsub(/\s+/, " ")
          days = [*dates(text, on, order), *weekdays(text, on)]
          days.select { |day, at| day > on && day <= on + LONGEST_DAYS && said?(text, at) }.map(&:first).max
        end

        def self.said?(text, at)
          before = text[[at - 90, 0].max...at].split(/[.!?]\s/).last.to_s.downcase.scan(WORD).last(WORDS_BETWEEN)
          before.intersect?(SAID)
        end
        private_class_method :said?

        # @return [Array<Array(Date, Integer)>] days and where they stand
        def self.dates(text, on, order)
          found = []
          each_match(text, ISO) { |one, at| found << [day(one[1], one[2], one[3], on), at] }
          each_match(text, NUMBERS) do |one, at|
            first, second = (order == "mdy" && one[2] == "/") ? [one[3], one[1]] : [one[1], one[3]]
            found << [day(one[4], second, first, on), at]
          end
          each_match(text, DAY_FIRST) { |one, at| found << [day(one[3], Calendar::MonthNames.number(one[2]), one[1], on), at] }
          each_match(text, MONTH_FIRST) { |one, at| found << [day(one[3], Calendar::MonthNames.number(one[1]), one[2], on), at] }
          found.select(&:first)
        end
        private_class_method :dates

        def self.weekdays(text, on)
          found = []
          each_match(text, WORD) do |one, at|
            wday = WEEKDAYS.filter_map { |names| names.index(one[0].downcase) }.first
            # A day of the week before a date only says it again.
            found << [on + ((wday - on.wday - 1) % 7) + 1, at] if wday && !text[one.end(0), 12].match?(/\A,?\s*(the\s|den\s|le\s)?\d/)
          end
          found
        end
        private_class_method :weekdays

        def self.each_match(text, pattern)
          at = 0
          while (one = pattern.match(text, at))
            yield(one, one.begin(0))
            at = [one.end(0), at + 1].max
          end
        end
        private_class_method :each_match

        def self.day(year, month, day, on)
          return if month.nil?

          month, day = month.to_i, day.to_i
          return whole(year.to_i, month, day) if year && year.size == 4
          return whole(2000 + year.to_i, month, day) if year

          this_year = whole(on.year, month, day)
          (this_year && this_year > on) ? this_year : whole(on.year + 1, month, day)
        end
        private_class_method :day

        def self.whole(year, month, day) = Date.valid_date?(year, month, day) ? Date.new(year, month, day) : nil
        private_class_method :whole
      end
    end
  end
end
