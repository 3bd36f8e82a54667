# frozen_string_literal: true

module NimbleLetter
  module Post
    # Which of the letters that are due may go now, and when the others may: those that missed their window, those whose mailbox is full
    # or keeps its pace and hours, and those to people who have had enough from us lately.
    class Admission
      # @param rows [Array<Records::Delivery>] in the order in which they would go; they and their mailboxes are the caller's
      # @param moment [Work::Moment]
      # @param upto [Time] due by then
      def initialize(rows, moment, upto)
        @rows, @moment, @upto = rows, moment, upto
        records = Records::Mailbox.where(id: rows.map(&:mailbox_id).uniq).all
        @boxes = records.to_h { |box| [box.id, box.to_core] }
        @retired = records.select(&:retired_at).to_h { |box| [box.id, box.address] }
        @plans = Records::Member.where(id: rows.map(&:member_id)).select_hash(:id, :plan)
        @room = Work::RoomLeft.now(moment, @boxes.keys, rows.map(&:person_id).uniq)
        @waiting = {}
      end

      # @return [Array<Records::Delivery>]
      def call
        @rows.select { |row| admit?(row) }.tap { keep_pace }
      end

      private

      def admit?(row)
        return false if @waiting.key?(row.mailbox_id) || Work::Lapse.call(row, @plans.fetch(row.member_id), @moment)

        return retired(row) if @retired.key?(row.mailbox_id)

        again = late_until(row)
        return put_off(row, again) if again

        slot = @room.slot(@boxes[row.mailbox_id], row.person_id, [row.due_at, @moment.now].max)
        (slot.at > @upto) ? wait(row, slot) : go(row, slot.at)
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

      def late_until(row)
        return if @moment.now - row.due_at <= Core::Sending::Room::LATE_SECONDS

        again = Work::Reopening.new(@moment).for(row)
        again if again > @moment.now
      end

      # @return [true]
      def go(row, at)
        row.update(due_at: at) if at > row.due_at && at > @moment.now
        @room.take(@boxes[row.mailbox_id], row.person_id, at)
        true
      end

      # What keeps the mailbox keeps all of its letters; what keeps this one lets the others go.
      # @return [false]
      def wait(row, slot)
        return put_off(row, Work::Reopening.new(@moment).for(row, from: slot.at), slot.why) if Core::Sending::Room::OWN.include?(slot.why)

        @waiting[row.mailbox_id] = slot
        false
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
