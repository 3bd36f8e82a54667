# frozen_string_literal: true

module NimbleLetter
  module Work
    # Letters per mailbox and day, what is planned already included. A mailbox that is full on a day takes the rest on the
    # next, so that a large start never locks anybody out of their own mail.
    class DayBook
      BIN_SECONDS = 15 * 60

      # @param moment [Moment]
      # @param plan [Core::Journey::Plan] that people would join
      def initialize(moment, plan)
        @moment, @plan, @step = moment, plan, plan.steps.first
        @days = Core::Calendar::DayNumbers.new(moment.firm.zone)
        @letters = planned
        # By mailbox, the first day that had room for a zone; days before it are full and stay so.
        @open_from = Hash.new { |all, box_id| all[box_id] = {} }
        @entrances, @most = {}, {}.compare_by_identity
        # What comes first for those of whom the same is known, by when it is counted from.
        @legs = Hash.new { |all, base| all[base] = {}.compare_by_identity }.compare_by_identity
      end

      # @param known [Core::Journey::Known] with an answer to each of the plan's conditions
      # @return [Array(Time, Integer)] UTC: when this member should join so that the first letter finds room; and when that is due then, in
      #   seconds since 1970 (nil: it was not asked, or there is none)
      def place_for(mailbox, known)
        # What begins with anything else has its letters whenever they come.
        return [@moment.now, nil] unless @step.is_a?(Core::Journey::Steps::Letter)

        most = (@most[mailbox] ||= mailbox.to_core.most_a_day)
        open_from, letters = @open_from[mailbox.id], @letters[mailbox.id]
        zone = known.their_zone.identifier
        base = open_from.fetch(zone, @moment.now)
        loop do
          due = due(base, known)
          # On a day of its own it finds no other; the mailbox's limit has it wait when it is to go.
          return [base, due] if due.nil? || @step.timing.fixed?

          day = @days.at(due)
          return [base, due].tap { letters[day] += 1 } if letters[day] < most

          base = open_from[zone] = day_after(base)
        end
      end

      private

      # @return [Integer, nil] when their first letter is due, in seconds since 1970
      def due(base, known)
        leg = known.events.empty? ? (@legs[base][known.core] ||= leg(base, known)) : leg(base, known)
        at = leg&.at(known.seed)
        return at if at && at >= @moment.now.to_i

        decision, = @moment.alike.soonest(@plan, entrance(base), known, @moment.now)
        # Whoever is passed by at once needs no room.
        skipped = decision.is_a?(Core::Journey::Decisions::Skip) && Core::Journey::Decisions.at(decision) <= @moment.now
        decision.due&.at&.ceil.to_i if decision.respond_to?(:due) && decision.due && !skipped
      end

      def leg(base, known) = @moment.alike.leg(@plan, @step.id, base, known)

      def entrance(base) = @entrances[base] ||= @plan.entrance(base)

      # What could go at any time goes when people read their post.
      def day_after(base)
        date = @moment.firm.today(base)
        next_day = @step.timing.any_time? ? @moment.calendar.after(date, 1) : date + 1
        Core::Calendar::Zones.instant(@moment.firm.zone, next_day, @step.timing.morning)
      end

      # @return [Hash{Integer=>Hash{Integer=>Integer}}] letters by mailbox and day, see Core::Calendar::Zones.number
      def planned
        since = Core::Calendar::Zones.instant(@moment.firm.zone, @moment.today, 0)
        # By quarters of an hour, in which no day begins: the server counts, and there are few of them.
        bin = Sequel.function(:floor, Sequel.function(:unix_timestamp, :due_at) / BIN_SECONDS)
        rows = Records::Delivery.where(state: Records::Delivery::STILL_DUE + %w[sent]).where { due_at >= since }
        letters = Hash.new { |all, box_id| all[box_id] = Hash.new(0) }
        rows.group_and_count(:mailbox_id, bin.as(:bin)).each_with_object(letters) do |row, all|
          all[row[:mailbox_id]][@days.at(row[:bin].to_i * BIN_SECONDS)] += row[:count]
        end
      end
    end
  end
end
