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
        @letters = planned
        @open_from = {} # the first day that had room for this mailbox and zone; days before it are full and stay so
      end

      # @param known [Core::Journey::Known] with an answer to each of the plan's conditions
      # @return [Array(Time, Core::Journey::Decisions)] UTC: when this member should join so that the first letter finds room; and what
      #   the journey decides of them then (nil: it was not asked)
      def place_for(mailbox, known)
        # What begins with anything else has its letters whenever they come.
        return [@moment.now, nil] unless @step.is_a?(Core::Journey::Steps::Letter)

        zone = known.their_zone.identifier
        base = @open_from.fetch([mailbox.id, zone], @moment.now)
        loop do
          decision = @moment.machine.next(@plan, @plan.entrance(base), known, @moment.now)
          # On a day of its own it finds no other; the mailbox's limit has it wait when it is to go.
          return [base, decision] if !to_send?(decision) || @step.timing.fixed?

          key = [mailbox.id, @moment.firm.today(decision.due.at)]
          return [base, decision].tap { @letters[key] += 1 } if @letters[key] < mailbox.to_core.most_a_day

          base = @open_from[[mailbox.id, zone]] = day_after(base)
        end
      end

      private

      def to_send?(decision) = [Core::Journey::Decisions::Wait, Core::Journey::Decisions::Send].include?(decision.class) && decision.due

      def day_after(base)
        date = @moment.firm.today(base)
        Core::Calendar::Zones.instant(@moment.firm.zone, date + 1, 0)
      end

      # @return [Hash{Array(Integer, Date)=>Integer}] letters by mailbox and day
      def planned
        since = Core::Calendar::Zones.instant(@moment.firm.zone, @moment.today, 0)
        # By quarters of an hour, in which no day begins: the server counts, and there are few of them.
        bin = Sequel.function(:floor, Sequel.function(:unix_timestamp, :due_at) / BIN_SECONDS)
        rows = Records::Delivery.where(state: Records::Delivery::STILL_DUE + %w[sent]).where { due_at >= since }
        rows.group_and_count(:mailbox_id, bin.as(:bin)).each_with_object(Hash.new(0)) do |row, all|
          all[[row[:mailbox_id], @moment.firm.today(Time.at(row[:bin].to_i * BIN_SECONDS).utc)]] += row[:count]
        end
      end
    end
  end
end
