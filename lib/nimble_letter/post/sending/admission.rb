# frozen_string_literal: true

module NimbleLetter
  module Post
    # Which of the letters that are due may go now, and when the others may: those that missed their window, those whose mailbox is full
    # or keeps its pace and hours, and those to people who have had enough from us lately. It goes through them in the order of time, as
    # a rehearsal does (MailboxQueue).
    class Admission
      # A letter that comes so much after its turn is in time for the pace: a round of the worker takes a moment.
      PROMPT_SECONDS = 5

      # @param rows [Array<Records::Delivery>] in the order of time; they and their mailboxes are the caller's
      # @param moment [Work::Moment]
      # @param upto [Time] due by then
      # @param limit [Integer] letters at most; so many were read of those who have heard from us, and of others, for each mailbox
      def initialize(rows, moment, upto, limit:)
        @moment, @limit, @now = moment, limit, moment.now.to_i
        @rows = rows.group_by(&:mailbox_id)
        records = Records::Mailbox.where(id: @rows.keys).all
        @boxes = records.to_h { |box| [box.id, box.to_core] }
        @retired = records.select(&:retired_at).to_h { |box| [box.id, box.address] }
        @plans = Records::Member.where(id: rows.map(&:member_id)).select_hash(:id, :plan)
        @room = Work::RoomLeft.now(moment, @boxes.keys, rows.map(&:person_id).uniq)
        @queues = @rows.map { |id, some| queue(@boxes.fetch(id), some, upto.to_i) }
        @waiting = {}
      end

      # @return [Array<Records::Delivery>] in the order in which they leave
      def call
        admitted = []
        while admitted.size < @limit && (queue = soonest)
          row = next_of(queue)
          admitted << row if row
        end
        keep_pace
        admitted
      end

      private

      def soonest = @queues.select(&:next_at).min_by(&:next_at)

      # Where the order matters nothing is looked at ahead of its time: somebody may come before.
      def queue(box, rows, upto)
        matters = box.pace || @room.nearly_full?(box, @now, rows.size)
        MailboxQueue.new(box, rows, most: @limit, at: prompt(box, rows), upto: matters ? @now : upto)
      end

      # @return [Integer] now, or the turn of the first of them if that was just before
      def prompt(box, rows)
        return @now unless box.pace

        turn = [rows.map { |row| row.due_at.to_i }.min, @room.free_at(box.id)&.to_i].compact.max
        (@now - turn).between?(0, PROMPT_SECONDS) ? turn : @now
      end

      # @return [Records::Delivery, nil] that may go; nil: none, or not the next one
      def next_of(queue)
        at = queue.next_at
        opens = @room.next_in_line(queue.box, at)
        if opens > at
          queue.at = opens
          wait(queue, at, opens) unless queue.next_at
          return
        end

        row = queue.shift(at)
        row if admit?(row, queue, at)
      end

      # All letters of the mailbox wait.
      def wait(queue, at, opens)
        @waiting[queue.box.id] = Core::Sending::Room::Slot.new(Time.at(opens).utc, @room.keeps_all(queue.box, at))
      end

      # @param at [Integer] when it would leave, in seconds since 1970
      def admit?(row, queue, at)
        return false if Work::Lapse.call(row, @plans.fetch(row.member_id), @moment)
        return retired(row) if @retired.key?(row.mailbox_id)

        again = late_until(row, at)
        return put_off(row, again) if again

        kept = @room.grant(queue.box, row.person_id, at)
        kept ? wait_alone(row, queue.box, at) : go(row, at)
      rescue *Records::Patience::AWAY
        raise
      rescue *Work::PutAside::OF_ONE_THING => error
        Work::LetterAside.call(row, error, at: @moment.now)
        false
      end

      # @return [false]
      def retired(row)
        Work::LetterAside.call(row, "Its mailbox #{@retired[row.mailbox_id]} is retired.", at: @moment.now)
        false
      end

      # @return [Time, nil] when a letter that missed its time may go; nil: now
      def late_until(row, at)
        return if at - row.due_at.to_i <= Core::Sending::Room::LATE_SECONDS

        at = Time.at(at).utc
        again = Work::Reopening.new(@moment).for(row, from: at)
        again if again > at
      end

      # @return [true]
      def go(row, at)
        at = Time.at(at).utc
        row.update(due_at: at) if at > row.due_at && at > @moment.now
        true
      end

      # What keeps this letter lets the others go.
      # @return [false]
      def wait_alone(row, box, at)
        slot = @room.slot(box, row.person_id, Time.at(at).utc)
        put_off(row, Work::Reopening.new(@moment).for(row, from: slot.at), slot.why)
      end

      # @return [false]
      def put_off(row, at, why = nil)
        words = "They #{@moment.firm.guard.words}." if why == :guard
        Records::Delivery.where(id: row.id).update(due_at: at, reason: words)
        false
      end

      def keep_pace
        @boxes.each_value do |box|
          slot, free_at = @waiting[box.id], @room.free_at(box.id)
          if slot then Records::Mailbox.where(id: box.id).update(free_at: slot.at, free_why: slot.why.to_s)
          elsif box.pace && free_at then Records::Mailbox.where(id: box.id).update(free_at: free_at, free_why: "pace")
          end
        end
      end
    end
  end
end
