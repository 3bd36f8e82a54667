# frozen_string_literal: true

module NimbleLetter
  module Work
    # Letters per mailbox and day, what is planned already included. A mailbox that is full on a day takes the rest on the
    # next, so that a large start never locks anybody out of their own mail.
    class DayBook
      # @param moment [Moment]
      # @param plan [Core::Journey::Plan] that people would join
      def initialize(moment, plan)
        @moment, @plan, @step = moment, plan, plan.steps.first
        @letters = planned
        @open_from = {} # the first day that had room for this mailbox and zone; days before it are full and stay so
      end

      # @param known [Core::Journey::Known]
      # @return [Time] UTC: when this member should join so that the first letter finds room
      def base_for(mailbox, known)
        # What begins with anything else has its letters whenever they come.
        return @moment.now unless @step.is_a?(Core::Journey::Steps::Letter)

        zone = known.their_zone.identifier
        base = @open_from.fetch([mailbox.id, zone], @moment.now)
        loop do
          due = @moment.machine.due(@step, @plan.entrance(base), known)&.at
          # On a day of its own it finds no other; the mailbox's limit has it wait when it is to go.
          return base if due.nil? || @step.timing.fixed?

          key = [mailbox.id, @moment.firm.today(due)]
          return base.tap { @letters[key] += 1 } if @letters[key] < mailbox.daily_limit

          base = @open_from[[mailbox.id, zone]] = day_after(base)
        end
      end

      private

      def day_after(base)
        date = @moment.firm.today(base)
        Core::Calendar::Zones.instant(@moment.firm.zone, date + 1, 0)
      end

      def planned
        since = Core::Calendar::Zones.instant(@moment.firm.zone, @moment.today, 0)
        rows = Records::Delivery.where(state: Records::Delivery::STILL_DUE + %w[sent]).where { due_at >= since }
        rows.select_map(%i[mailbox_id due_at]).each_with_object(Hash.new(0)) { |(box, at), all| all[[box, @moment.firm.today(at)]] += 1 }
      end
    end
  end
end
