# frozen_string_literal: true

module NimbleLetter
  module Work
    # Letters that are to go at hours in which their mailbox sends nothing, by the clock of those who are to get them: they would wait
    # for ever.
    class NeverLeaves
      # @param outlook [Outlook]
      def initialize(outlook, moment)
        @outlook, @moment = outlook, moment
      end

      # @param step [Records::Step] of a letter
      # @return [Array<Prospect>] whom it would never reach
      def rows(step)
        timing = step.timing
        alike.flat_map do |(hours, theirs), rows|
          if timing.ever_meets?(hours, (timing.zone == "theirs") ? theirs : @moment.firm.zone, @moment.today)
            []
          else
            rows
          end
        end
      end

      private

      # @return [Hash{Array(Core::Calendar::Hours, TZInfo::Timezone)=>Array<Prospect>}] those whose mailbox does not send at all hours
      def alike
        @alike ||= @outlook.rows.group_by { |row| row.mailbox&.id }.flat_map { |_, rows|
          hours = rows.first.mailbox&.to_core&.hours(@moment.firm.zone)
          hours ? rows.group_by { |row| [hours, row.known.their_zone] }.to_a : []
        }.to_h
      end
    end
  end
end
