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

          # @param zone [TZInfo::Timezone] the firm's
          # @return [Calendar::Hours, nil] nil: all of them
          def hours(zone) = (Calendar::Hours.new(zone, from_minute, to_minute) unless all_hours?)
        end
        # at: the earliest instant. why: what keeps it until then, of #keeps; nil: nothing does. What keeps this letter (OWN) is said
        # before what keeps all of its mailbox's: those have nothing to wait for.
        Slot = Struct.new(:at, :why)
        # Of one mailbox on one day.
        Tally = Struct.new(:letters)
        OWN = %i[guard full].freeze
        DAY = 86_400
        # A letter that comes later than this (the mailbox kept it, the post was held, the machine was off) waits for its window again.
        LATE_SECONDS = 20 * 60

        # @param zone [TZInfo::Timezone] the firm's
        # @param guard [Sieve::Guard, nil]
        def initialize(zone:, guard: nil)
          @zone, @guard = zone, guard
          @most, @apart = guard.letters, guard.days * DAY if guard
          @sent = Hash.new { |all, box_id| all[box_id] = Hash.new { |days, day| days[day] = Tally.new(0) } }
          @opens = Hash.new { |all, box_id| all[box_id] = {} }
          # Kept in seconds since 1970: a rehearsal asks for each of its letters.
          @free, @had, @hours, @open = {}, {}, {}, {}
          @days = Calendar::DayNumbers.new(zone)
        end

        # So many left this mailbox on a day already.
        # @param date [Date]
        def sent(box_id, date, letters)
          @sent[box_id][Calendar::Zones.number(date)].letters += letters
        end

        # Nothing leaves this mailbox before that, because of its pace.
        # @param at [Time]
        def free_from(box_id, at)
          free(box_id, whole(at))
        end

        # @return [Time, nil] when its pace lets the next one go
        def free_at(box_id) = (free = @free[box_id]) && Time.at(free).utc

        # What somebody has had lately.
        # @param times [Array<Time>]
        def had(person_id, times)
          @had[person_id] = (@had.fetch(person_id, []) + times.map { |time| whole(time) }).sort
        end

        # @return [Calendar::Hours, nil] of a mailbox; nil: all of them
        def hours_of(box) = @hours.fetch(box.id) { @hours[box.id] = box.hours(@zone) }

        # @param box [Box]
        # @param from [Time]
        # @return [Slot]
        def slot(box, person_id, from)
          at, why = earliest(box, person_id, whole(from))
          Slot.new(why ? Time.at(at).utc : from, why)
        end

        # @param from [Integer] seconds since 1970
        # @return [Array(Integer, Symbol)] as #slot
        def earliest(box, person_id, from)
          at, why = from, nil
          while (reason = keeps(box, person_id, at))
            at = public_send(reason, box, person_id, at)
            why = reason unless OWN.include?(why) && !OWN.include?(reason)
          end
          [at, why]
        end

        # @param from [Integer] seconds since 1970
        # @return [Integer] when the mailbox takes the next of those who wait for its hours and its pace, whoever it is
        def next_in_line(box, from)
          open = hours(box, nil, pace(box, nil, from))
          (open == from) ? from : next_in_line(box, open)
        end

        # @param at [Integer] seconds since 1970
        # @return [Boolean] whether its pace keeps all of a mailbox's letters
        def paces?(box, at) = !box.pace.nil? && pace(box, nil, at) > at

        # @param at [Integer] seconds since 1970
        # @return [Symbol] :hours or :pace: what has those in a mailbox's line wait who come then
        def keeps_all(box, at) = (hours(box, nil, at) > at) ? :hours : :pace

        # @param at [Integer] seconds since 1970
        # @return [Symbol, nil] :guard, :full, :hours or :pace: what keeps a letter that would leave at this instant
        def keeps(box, person_id, at) = kept(box, person_id, at, tally(box, at))

        # @param opens [Integer] seconds since 1970
        # @param shuts [Integer] likewise, included
        # @return [Stretch] for the letters of one mailbox that would leave in between
        def between(box, opens, shuts)
          tally = tally(box, opens) if same_day?(opens, shuts)
          plain = tally && box.pace.nil? && (box.all_hours? || hours_of(box).cover?(opens, shuts))
          (plain ? Plainly : Stretch).new(self, box, tally, ([@most, @apart] if @guard))
        end

        # @return [Array<Integer>, nil] what somebody has had lately, in seconds since 1970, kept up to date; nil: nobody asks
        def lately(person_id) = (@had[person_id] ||= [] if @guard)

        # @param at [Integer] seconds since 1970
        # @param other [Integer] likewise
        # @return [Boolean] whether a mailbox's limit counts them together
        def same_day?(at, other) = @days.at(at) == @days.at(other)

        # @param at [Integer] seconds since 1970
        # @return [Boolean] whether so many more letters would fill its day, so that it matters who comes first
        def nearly_full?(box, at, letters) = tally(box, at).letters + letters >= box.a_day

        # A letter leaves then, if there is room for it.
        # @param at [Integer] seconds since 1970
        # @return [Symbol, nil] what keeps it, see #keeps
        def grant(box, person_id, at)
          tally = tally(box, at)
          kept = kept(box, person_id, at, tally)
          leaves(box, person_id, at, tally) unless kept
          kept
        end

        # A letter leaves then.
        # @param at [Time, Integer] with room for it; an Integer in seconds since 1970
        def take(box, person_id, at)
          at = whole(at)
          leaves(box, person_id, at, tally(box, at))
        end

        # @api private
        # @return [Integer] when the oldest of so many letters is so many days ago
        def guard(_box, person_id, at)
          had = @guard && @had[person_id]
          return at if had.nil? || had.size < @most

          # As a rule it was all before.
          had = had.take_while { |time| time <= at } if had.last > at
          return at if had.size < @most

          free = had[-@most] + @apart
          (free > at) ? free : at
        end

        # @api private
        # @return [Integer] when the next day of the mailbox begins
        def full(box, _person_id, at)
          day = @days.at(at)
          @opens[box.id][day] ||= Calendar::Zones.instant(@zone, Calendar::Zones.day(day + 1), box.from_minute).to_i
        end

        # @api private
        def hours(box, _person_id, at)
          hours = hours_of(box) or return at
          open = @open[box.id]
          return at if open&.cover?(at)

          hours.next_open(at).tap { |opens| @open[box.id] = opens...hours.open_until(opens) }
        end

        # @api private
        def pace(box, _person_id, at) = ((free = @free[box.id]) && free > at) ? free : at

        private

        def tally(box, at) = @sent[box.id][@days.at(at)]

        def kept(box, person_id, at, tally)
          return :guard if @guard && guard(box, person_id, at) > at
          return :full if tally.letters >= box.a_day
          return :hours if hours_of(box) && hours(box, person_id, at) > at

          :pace if box.pace && pace(box, person_id, at) > at
        end

        def leaves(box, person_id, at, tally)
          tally.letters += 1
          free(box.id, at + gap(box, person_id)) if box.pace
          return unless (lately = lately(person_id))

          last = lately.last
          lately << at
          lately.sort! if last && last > at
        end

        # Never before it may.
        def whole(at) = at.ceil.to_i

        def free(box_id, at)
          @free[box_id] = at unless @free[box_id]&.>(at)
        end

        # As windows are spread over.
        def gap(box, person_id)
          first, last = box.pace
          first + Calendar::Timing.spread(last - first + 1, person_id)
        end
      end
    end
  end
end
