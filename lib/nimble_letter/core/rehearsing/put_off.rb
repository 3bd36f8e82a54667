# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Those of a crowd whom a full mailbox put off to one opening of their window. Nobody is called before the first of them has gone:
      # it takes its turn as one, when it is that one's.
      class PutOff < Crowd
        # @param others [Array<Traveller>]
        def concat(others)
          @members.concat(others)
        end

        # @param turns [Turns]
        def line_up(turns)
          @gathers = false
          @members = turns.in_order(@members, times)
          call_next(turns)
        end

        # @param turns [Turns]
        def call_next(turns)
          turns.call(first, @span.seconds(Journey::Machine.spacing(first.seed, @step_id)), self) if first
        end

        # @return [Traveller, nil]
        def first = @members.first

        # @return [Traveller] the first, who is a member no longer
        def shift = @members.shift

        # @return [Array<Traveller>] the members, who are so no longer
        def give_up = @members.shift(@members.size)
      end
    end
  end
end
