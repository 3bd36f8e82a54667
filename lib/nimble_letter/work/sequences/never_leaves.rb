# frozen_string_literal: true

module NimbleLetter
  module Work
    # Letters that are to go at hours in which their mailbox sends nothing, by the clock of those who are to get them: they would wait
    # for ever.
    class NeverLeaves
      HALF_A_YEAR = 182 # days: the clocks may change apart from one another

      # @param outlook [Outlook]
      def initialize(outlook, moment)
        @outlook, @moment = outlook, moment
        @days = [moment.today, moment.today + HALF_A_YEAR]
      end

      # @param step [Records::Step] of a letter
      # @return [Array<Prospect>] whom it would never reach
      def rows(step)
        meets = Hash.new { |by_box, box| by_box[box] = Hash.new { |all, zone| all[zone] = meets?(step.timing, box, zone) } }
        @outlook.rows.select { |row| row.mailbox && !meets[row.mailbox][zone(step.timing, row)] }
      end

      private

      def zone(timing, row) = (timing.zone == "theirs") ? row.known.their_zone : @moment.firm.zone

      def meets?(timing, box, zone)
        hours = box.to_core.hours(@moment.firm.zone)
        hours.nil? || @days.any? { |day| timing.meets?(hours, zone, day) }
      end
    end
  end
end
