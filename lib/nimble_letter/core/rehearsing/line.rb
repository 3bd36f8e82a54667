# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Those who wait until a mailbox's pace and hours let the next letter go, in the order in which they came; those who have heard from
      # us go before all others. Some stand in it by themselves; of a crowd it is enough to know who is its next, since those behind need
      # not be called to wait. It takes its turn in a Rehearsal after all who come in the same second.
      class Line
        attr_reader :box
        # slot: of Turns, as of a Traveller; awake: whether its turn will come; upto: whoever of its crowds came by then had to wait
        attr_accessor :slot, :awake, :upto

        # @param box [Sending::Room::Box]
        def initialize(box)
          @box, @heard, @others, @upto = box, Rank.new, Rank.new, 0
        end

        # See Crowd#kind.
        def kind = :line

        # Its turn comes last in its second.
        def had_letter = false

        # @param heard [Boolean]
        # @return [Rank]
        def rank(heard) = heard ? @heard : @others

        # @return [Boolean] whether anybody waits then; the next of a crowd who comes in this very second may find that nobody does
        def waits?(at)
          return true if @heard.singles? || @others.singles?

          key = Turns.key_of(0, (at > @upto) ? at : @upto + 1)
          @heard.before?(key) || @others.before?(key)
        end

        # @return [Rank] the one from which somebody who waits goes next
        def serving(at) = @heard.first(at) ? @heard : @others

        # @return [Array<Paced>] all crowds, which wait no longer
        def disband = @heard.disband + @others.disband
      end
    end
  end
end
