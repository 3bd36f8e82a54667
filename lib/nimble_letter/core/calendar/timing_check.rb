# frozen_string_literal: true

module NimbleLetter
  module Core
    module Calendar
      # Whether what a timing is made of can be meant.
      module TimingCheck
        CHOICES = {
          counted: [Timing::COUNTED, "it is counted from one of #{Timing::COUNTED.join(", ")}"],
          unit: [Timing::UNITS, "a delay is counted in #{Timing::UNITS.join(", ")}"],
          zone: [%w[theirs ours], "the window follows their clock or ours"],
          days: [%w[working any], "it goes on working days or on any"],
          late: [%w[skip at_once], "what is past is skipped, or done at once"],
          no_date: [%w[skip leave], "without the date the step is skipped, or its person leaves"],
          yearly: [[true, false], "it is every year, or not"]
        }.freeze

        # @yield [message, at] what is wrong, and with which part
        def self.call(timing, &wrong)
          CHOICES.each { |name, (known, message)| yield(message, name.to_s) unless known.include?(timing.public_send(name)) }
          amount(timing, &wrong)
          window(timing, &wrong)
          unless timing.weekdays.any? && (timing.weekdays - Timing::EVERY_DAY).empty?
            yield("at least one day of the week is chosen", "weekdays")
          end
          if timing.days == "working" && (timing.weekdays & WorkCalendar::WEEKDAYS.to_a).empty?
            yield("on working days only, at least one from Monday to Friday is chosen", "weekdays")
          end
          yield("it needs a date", "date") if timing.counted == "date" && !timing.date.is_a?(Date)
          return unless timing.counted == "field"

          yield("it needs a field with a date", "field") unless timing.field.is_a?(String) && !timing.field.empty?
          yield("before and after a date are counted in days and longer", "unit") if Timing::SECONDS.key?(timing.unit)
        end

        def self.amount(timing)
          most = Timing::MOST.fetch(timing.unit)
          least = (timing.counted == "field") ? -most : 0
          return if timing.amount.is_a?(Integer) && timing.amount.between?(least, most)

          yield("a delay is a whole number from #{least} to #{most} #{timing.unit.tr("_", " ")}", "amount")
        end
        private_class_method :amount

        def self.window(timing)
          from, to = timing.from_minute, timing.to_minute
          return if [from, to].all?(Integer) && from >= 0 && to <= Timing::DAY_MINUTES &&
            (to - from >= Timing::SHORTEST_WINDOW || (to == from && from < Timing::DAY_MINUTES))

          yield("the window needs at least #{Timing::SHORTEST_WINDOW} minutes between opening and shutting, or none at all", "to_minute")
        end
        private_class_method :window
      end
    end
  end
end
