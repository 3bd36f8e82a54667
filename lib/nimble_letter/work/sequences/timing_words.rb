# frozen_string_literal: true

module NimbleLetter
  module Work
    # When a step goes out, as people say it: "3 working days later, on Tue to Thu", "10 days before “birthday”, every year".
    module TimingWords
      UNITS = {"minutes" => %w[minute minutes], "hours" => %w[hour hours], "days" => %w[day days], "weeks" => %w[week weeks],
               "working_days" => ["working day", "working days"], "months" => %w[month months]}.freeze
      DAYS = %w[Sun Mon Tue Wed Thu Fri Sat].freeze
      WORKING_DAYS = [1, 2, 3, 4, 5].freeze

      # @param timing [Core::Calendar::Timing]
      # @param first [Boolean] whether it is the first step
      def self.say(timing, first:) = [moment(timing, first), days(timing)].compact.join(", ")

      def self.moment(timing, first)
        case timing.counted
        when "date" then "on #{timing.date.strftime("%-d %b %Y")}"
        when "field" then around(timing)
        else
          return first ? "on joining" : "same day" if timing.amount.zero? && timing.counted == "step"
          return "on joining" if timing.amount.zero?

          "#{so_long(timing)} #{(first || timing.counted == "joining") ? "after joining" : "later"}"
        end
      end
      private_class_method :moment

      def self.around(timing)
        field = Records::FieldCatalogue.current[timing.field]
        named = "“#{(field&.label || timing.field).downcase}”"
        when_then = if timing.amount.zero? then "on #{named}"
        else "#{so_long(timing)} #{timing.amount.negative? ? "before" : "after"} #{named}"
        end
        timing.yearly ? "#{when_then}, every year" : when_then
      end
      private_class_method :around

      def self.so_long(timing)
        amount = timing.amount.abs
        "#{amount} #{UNITS.fetch(timing.unit)[(amount == 1) ? 0 : 1]}"
      end
      private_class_method :so_long

      # Nothing is said of what goes without saying: any day of the week that is worked.
      def self.days(timing)
        chosen = (timing.days == "working") ? timing.weekdays & WORKING_DAYS : timing.weekdays
        whole = (timing.days == "working") ? WORKING_DAYS : Core::Calendar::Timing::EVERY_DAY
        return ("also on days off" if timing.days == "any") if chosen == whole

        "on #{named(chosen)}"
      end
      private_class_method :days

      # Monday first, three or more in a row as a span.
      def self.named(days)
        order = days.sort_by { |day| (day - 1) % 7 }
        runs = order.slice_when { |one, other| (other - one) % 7 != 1 }
        runs.flat_map { |run| (run.size > 2) ? ["#{DAYS[run.first]} to #{DAYS[run.last]}"] : run.map { |day| DAYS[day] } }
          .then { |words| (words.size > 1) ? "#{words[0..-2].join(", ")} and #{words.last}" : words.join }
      end
      private_class_method :named
    end
  end
end
