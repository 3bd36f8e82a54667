# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Addressees of a mailbox that keeps a pace: they are called one by one, and whoever has to wait does so with all behind them.
      class Paced < Addressees
        # Later than anybody.
        NOBODY = Float::INFINITY

        # Others missed their time in the line.
        def all_of_full? = false

        # @param one [Traveller] whose turn it is
        # @return [Boolean] whether they are the next of these, and the others come behind
        def next?(one) = !@singly && @last_called.equal?(one)

        # @return [Integer, Float] while they stand in a line: Turns.key of the next, or NOBODY
        attr_reader :next_key

        # The one who was called last is to wait, and those behind as soon as they would come.
        def hold_back
          begin_with(@called - 1)
          @last_called = nil
        end

        # @return [Integer, nil] Turns.number of the next
        def next_number = @numbers[@called]

        # @return [Integer] Turns.number of the one who was the next
        def shift = next_number.tap { begin_with(@called + 1) }

        # @param key [Integer] of Turns.key
        # @return [Array<Integer>] Turns.number of those who came before that, and are members no longer
        def give_up_before(key)
          last = @called
          begin_with(@numbers.bsearch_index { |number| Turns.key_of(number, opens) >= key } || size)
          @numbers[last...@called] || []
        end

        private

        def begin_with(index)
          @called = index
          @next_key = (number = @numbers[index]) ? Turns.key_of(number, opens) : NOBODY
        end

        def likely_to_go(_turns) = few

        def few = 1
      end
    end
  end
end
