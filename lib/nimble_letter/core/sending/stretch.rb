# frozen_string_literal: true

module NimbleLetter
  module Core
    module Sending
      # The Room there is in one mailbox for the letters of one stretch of time, for those who ask for a great many of them.
      class Stretch
        # @param room [Room]
        # @param box [Room::Box]
        # @param tally [Room::Tally, nil] of the day it lies in; nil: it lies in two
        # @param guard [Array(Integer, Integer), nil] so many letters at most to anybody in so many seconds
        def initialize(room, box, tally, guard)
          @room, @box, @tally, @a_day = room, box, tally, box.a_day
          @most, @apart = guard
        end

        # @return [Boolean] whether the limit of a single day counts
        def one_day? = !@tally.nil?

        # @return [Integer] so many letters more on that day
        def left = [@a_day - @tally.letters, 0].max

        # A letter leaves then, if there is room for it.
        # @param lately [Array<Integer>, nil] of Room#lately
        # @param at [Integer] seconds since 1970, within the stretch
        # @return [Symbol, nil] what keeps it, see Room#grant
        def grant(person_id, _lately, at) = @room.grant(@box, person_id, at)

        # @return [Boolean] whether it may keep anything
        def guard? = !@most.nil?

        # @return [Boolean] whether the guard may keep it
        def guarded?(lately, at)
          last = lately&.last
          last && (last > at || (lately.size >= @most && lately[-@most] + @apart > at))
        end
      end
    end
  end
end
