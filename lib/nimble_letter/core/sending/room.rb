# frozen_string_literal: true

module NimbleLetter
  module Core
    module Sending
      # Where there is room for one more letter: in a mailbox's day, hours and pace, and in what one person may have from us in so many
      # days over all sequences. One rule for planning, rehearsing and sending.
      class Room
        # a_day: letters at most. pace: seconds between two of them, from and to, unevenly; nil: as fast as they go. from_minute,
        # to_minute: of the firm's day, end excluded, in which they leave.
        Box = Struct.new(:id, :a_day, :pace, :from_minute, :to_minute, keyword_init: true) do
          # @return [Integer] letters a day, as far as hours and pace let it come to its limit
          def most_a_day = pace ? [a_day, (to_minute - from_minute) * 120 / (pace.first + pace.last)].min.clamp(1, a_day) : a_day

          def all_hours? = from_minute.zero? && to_minute == 1440
        end
        # at: the earliest instant. why: what keeps it until then, of #keeps; nil: nothing does
        Slot = Struct.new(:at, :why)
        DAY = 86_400
        # A letter that comes later than this (the mailbox kept it, the post was held, the machine was off) waits for its window again.
        LATE_SECONDS = 20 * 60

        # @param zone [TZInfo::Timezone] the firm's
        # @param guard [Sieve::Guard, nil]
        def initialize(zone:, guard: nil)
          @zone, @guard = zone, guard
          @sent = Hash.new { |all, box_id| all[box_id] = Hash.new(0) }
          @opens = Hash.new { |all, box_id| all[box_id] = {} }
          @free, @had = {}, {}
        end

        # So many left this mailbox on a day already.
        # @param date [Date]
        def sent(box_id, date, letters)
          @sent[box_id][Calendar::Zones.number(date)] += letters
        end

        # Nothing leaves this mailbox before that, because of its pace.
        # @param at [Time]
        def free_from(box_id, at)
          @free[box_id] = [@free[box_id], at].compact.max
        end

        # @return [Time, nil] when its pace lets the next one go
        def free_at(box_id) = @free[box_id]

        # What somebody has had lately.
        # @param times [Array<Time>]
        def had(person_id, times)
          @had[person_id] = (@had.fetch(person_id, []) + times).sort
        end

        # @param box [Box]
        # @param from [Time]
        # @return [Slot]
        def slot(box, person_id, from)
          at, why = from, nil
          while (reason = keeps(box, person_id, at))
            at, why = public_send(reason, box, person_id, at), reason
          end
          Slot.new(at, why)
        end

        # @return [Symbol, nil] :guard, :full, :hours or :pace: what keeps a letter that would leave at this instant; asked for each
        #   letter of a rehearsal
        def keeps(box, person_id, at)
          return :guard if @guard && guard(box, person_id, at) > at
          return :full if @sent[box.id][Calendar::Zones.day_number(@zone, at)] >= box.a_day
          return :hours unless box.all_hours? || hours(box, person_id, at) == at

          :pace if box.pace && pace(box, person_id, at) > at
        end

        # A letter leaves then.
        # @param at [Time] with room for it
        def take(box, person_id, at)
          @sent[box.id][Calendar::Zones.day_number(@zone, at)] += 1
          free_from(box.id, at + gap(box, person_id)) if box.pace
          return unless @guard

          lately = (@had[person_id] ||= [])
          (lately.empty? || lately.last <= at) ? lately << at : had(person_id, [at])
        end

        # @api private
        # @return [Time] when the oldest of so many letters is so many days ago
        def guard(_box, person_id, at)
          had = @guard && @had[person_id]
          return at if had.nil? || had.size < @guard.letters

          # As a rule it was all before.
          had = had.take_while { |time| time <= at } if had.last > at
          return at if had.size < @guard.letters

          free = had[-@guard.letters] + @guard.days * DAY
          (free > at) ? free : at
        end

        # @api private
        # @return [Time] when the next day of the mailbox begins
        def full(box, _person_id, at)
          day = Calendar::Zones.day_number(@zone, at)
          @opens[box.id][day] ||= Calendar::Zones.instant(@zone, Calendar::Zones.day(day + 1), box.from_minute)
        end

        # @api private
        def hours(box, _person_id, at)
          return at if box.all_hours?

          day, minute = Calendar::Zones.local(@zone, at)
          return at if minute >= box.from_minute && minute < box.to_minute

          Calendar::Zones.instant(@zone, (minute < box.from_minute) ? day : day + 1, box.from_minute)
        end

        # @api private
        def pace(box, _person_id, at) = ((free = @free[box.id]) && free > at) ? free : at

        private

        # Knuth's multiplicative hash, as windows are spread by (Calendar::Timing).
        def gap(box, person_id)
          first, last = box.pace
          first + (((person_id * 2_654_435_761) & 0xFFFFFFFF) * (last - first + 1) >> 32)
        end
      end
    end
  end
end
