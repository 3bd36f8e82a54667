# frozen_string_literal: true

module NimbleLetter
  module Work
    # The account of a due time in words: counted from what, what moved it, which window, whose clock.
    module WhyThen
      MOVED = {day_off: "The day it fell on is no working day there, so it is the next that fits.",
               weekday: "It goes on chosen days of the week only.",
               window: "Its hours were over by then, so it is the next day that fits.",
               away: "They said that they are away until then."}.freeze
      SHORT = %w[minutes hours].freeze

      # @param timing [Core::Calendar::Timing]
      # @param due [Core::Calendar::Timing::Due]
      # @param known [Core::Journey::Known]
      # @return [String]
      def self.say(timing, due, known, moment)
        zone = (timing.zone == "theirs") ? known.their_zone : moment.firm.zone
        [counted(due.from, zone), ("It was past by then." if due.late), MOVED[due.moved], window(timing, zone)].compact.join(" ")
      end

      def self.counted(from, zone)
        return "Counted from #{from.strftime("%a %-d %b %Y")}." if from.is_a?(Date)

        "Counted from #{zone.utc_to_local(from).strftime("%a %-d %b, %-H:%M")}."
      end
      private_class_method :counted

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
