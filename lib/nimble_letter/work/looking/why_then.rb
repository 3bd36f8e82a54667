# frozen_string_literal: true

module NimbleLetter
  module Work
    # The account of a due time in words: counted from what, how much later, what moved it, which window, whose clock.
    module WhyThen
      MOVED = {day_off: "The day it falls on is no working day there, so it is the next that fits.",
               weekday: "It goes on chosen days of the week only, so it is the next of them.",
               away: "They said that they are away until then."}.freeze
      OVER = "Its hours are over by then, so it is the next day that fits."
      BEFORE_HOURS = "Its hours begin later that day."
      LATE = "That was past when they came to it, so it is the next time that fits."

      # @param step [Core::Journey::Steps]
      # @param due [Core::Calendar::Timing::Due]
      # @param known [Core::Journey::Known]
      # @return [String]
      def self.say(step, due, known, moment)
        timing, zone = step.timing, moment.machine.zone(step, known)
        place = Core::Journey::Place.new(step_id: step.id, base: due.from.is_a?(Time) ? due.from : due.at)
        account = Core::Calendar::Account.new(timing, due, moment.machine.about(step, place, known))
        [counted(account, zone), (LATE if account.late), moved(account), window(timing, zone)].compact.join(" ")
      end

      # "Counted from Mon 4 May, 9:24: 3 hours later, and 4 minutes so that letters do not leave together, is Mon 4 May, 12:28."
      def self.counted(account, zone)
        from = "Counted from #{instant(account.from, zone)}"
        return "#{from}." if account.amount.zero? && account.spacing_seconds.zero?

        spacing = account.spacing_seconds
        apart = ", and #{spaced(spacing)} so that letters do not leave together," if spacing.positive?
        "#{from}: #{so_long(account)}#{apart} is #{instant(account.reached, zone)}."
      end
      private_class_method :counted

      def self.so_long(account)
        amount = account.amount.abs
        words = TimingWords::UNITS.fetch(account.unit)[(amount == 1) ? 0 : 1]
        "#{amount} #{words} #{account.amount.negative? ? "before" : "later"}"
      end
      private_class_method :so_long

      def self.spaced(seconds)
        minutes, rest = seconds.divmod(60)
        [(minutes.positive? ? "#{minutes} min" : nil), (rest.positive? ? "#{rest} s" : nil)].compact.join(" ")
      end
      private_class_method :spaced

      def self.instant(at, zone)
        return at.strftime("%a %-d %b %Y") if at.is_a?(Date)

        zone.utc_to_local(at).strftime(at.sec.zero? ? "%a %-d %b, %-H:%M" : "%a %-d %b, %-H:%M:%S")
      end
      private_class_method :instant

      def self.moved(account)
        return if account.late

        hours = account.hours_over? ? OVER : (BEFORE_HOURS if account.moved == :window && account.reached.is_a?(Time))
        [MOVED[account.moved], hours].compact.join(" ").then { |words| words unless words.empty? }
      end
      private_class_method :moved

      def self.window(timing, zone)
        clock = "by #{(timing.zone == "theirs") ? "their" : "our"} clock (#{zone.identifier.split("/").last.tr("_", " ")})"
        from, to = [timing.from_minute, timing.to_minute].map { |minute| format("%d:%02d", *minute.divmod(60)) }
        return "Any hour, #{clock}." if timing.from_minute.zero? && timing.to_minute == 1440

        (from == to) ? "At #{from} #{clock}." : "Between #{from} and #{to} #{clock}."
      end
      private_class_method :window
    end
  end
end
