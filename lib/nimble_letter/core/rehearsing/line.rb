# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Those who wait, one behind the other, until a mailbox's hours and pace let the next letter go. Those who have heard from us stand
      # in a line of their own, which goes first. It takes its turn in a Rehearsal when it is that of the first of them.
      class Line
        attr_reader :box

        # @param box [Sending::Room::Box]
        def initialize(box)
          @box, @waiting = box, []
        end

        # See Crowd#kind.
        def kind = :line

        # @param traveller [Traveller]
        def <<(traveller)
          @waiting << traveller
        end

        # @return [Traveller, nil]
        def first = @waiting.first

        # @return [Traveller] the first, who waits no longer
        def shift = @waiting.shift
      end
    end
  end
end
