# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # Those who wait, one behind the other, until a mailbox's hours and pace let the next letter go. Those who have heard from us stand
      # in a line of their own, which goes first. It takes its turn in a rehearsal as a Traveller does, for the first of them.
      class Line
        attr_reader :box, :at, :turn

        # @param box [Sending::Room::Box]
        # @param had_letter [Boolean] whether they have heard from us
        def initialize(box, had_letter)
          @box, @had_letter, @waiting = box, had_letter, []
        end

        # @param traveller [Traveller]
        def <<(traveller)
          @waiting << traveller
        end

        # @return [Traveller] the first, who waits no longer
        def shift = @waiting.shift

        def empty? = @waiting.empty?

        # @param at [Integer] seconds since 1970
        def wake(at)
          @at, @turn = at, Traveller.turn(at, @had_letter)
        end
      end
    end
  end
end
