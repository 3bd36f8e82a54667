# frozen_string_literal: true

module NimbleLetter
  module Work
    # When the letters of a draft that is one letter leave, first and last, as a rehearsal has it; and what has them leave later than
    # one would think.
    class LeavesWhen
      # Who is told "at once" does not ask what keeps a letter for so long.
      AT_ONCE_SECONDS = 60
      # code: :held, :rests, :full, :away, :hours or :pace. mailbox_id: which one keeps it. count: people
      # whom it concerns, where it is some of them.
      Keep = Struct.new(:code, :words, :mailbox_id, :count)

      # @param sequence [Records::Sequence] see OneLetter.of?
      # @param outlook [Outlook] of it
      def initialize(sequence, outlook, moment)
        @sequence, @outlook, @moment = sequence, outlook, moment
      end

      # @return [Time, nil]
      def first_at = first&.at

      # @return [Time, nil]
      def last_at = letters.last&.at

      # @return [Array<Keep>]
      def keeps = [held, rests, full, away, (late if first)].compact

      # @param code [String] of a Keep that counts people
      # @return [Array<Integer>]
      def people(code) = {"full" => put_off, "away" => absent}.fetch(code, []).map { |row| row.person.id }

      private

      def letters = @letters ||= Rehearse.new(@sequence, @moment, outlook: @outlook).run.letters

      def first = letters.first

      def held
        hold = PostHold.current or return
        by = hold[:by] ? " by #{hold[:by]}" : ""
        Keep.new(:held, "All post is held#{by}: nothing leaves until it is released.")
      end

      def rests
        box = boxes.find { |one| one.rests?(@moment.now) } or return
        Keep.new(:rests, "#{box.address} rests until #{clock(box.rests_until)}, since its letters failed one after the other.", box.id)
      end

      def full
        later = put_off.size
        return if later.zero?

        box = put_off.first.mailbox
        today = @outlook.by_mailbox[box] - later
        words = "#{box.address} has #{room_for(today)} today and sends #{box.to_core.most_a_day} a day; #{later} of these leave later."
        Keep.new(:full, words, box.id, later)
      end

      # Who finds no room on a day begins on a later one (DayBook): those of the mailbox that puts off most.
      # @return [Array<Prospect>]
      def put_off
        @put_off ||= @outlook.rows.select { |row| row.mailbox && row.base > @moment.now }.group_by(&:mailbox).values.max_by(&:size) || []
      end

      def room_for(letters)
        case letters
        when 0 then "no room left"
        when 1 then "room for 1 letter"
        else "room for #{letters} letters"
        end
      end

      def away
        count = absent.size
        return if count.zero?

        who = (count == 1) ? "1 person is away and gets" : "#{count} people are away and get"
        Keep.new(:away, "#{who} it when they are back.", nil, count)
      end

      # @return [Array<Prospect>]
      def absent
        @absent ||= (@outlook.rows - put_off).select do |row|
          row.known.away_until && row.first_at && row.first_at - @moment.now > AT_ONCE_SECONDS
        end
      end

      # What keeps the very first; the others wait for more of the same.
      def late
        box = boxes.find { |one| one.id == first.box_id } if first.at - @moment.now > AT_ONCE_SECONDS
        case box && first.why
        when :hours then Keep.new(:hours, "#{box.address} sends from #{time(box.hours_from)} to #{time(box.hours_to)}.", box.id)
        when :pace then Keep.new(:pace, "#{box.address} has other letters to send before.", box.id)
        end
      end

      def boxes = @outlook.mailboxes

      def clock(instant)
        day, minute = Core::Calendar::Zones.local(@moment.firm.zone, instant)
        "#{day.strftime("%a %-d %b")}, #{time(minute)}"
      end

      def time(minute) = format("%d:%02d", *minute.divmod(60))
    end
  end
end
