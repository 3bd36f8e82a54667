# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # A crowd for whom a letter comes next. As many of them are called as will likely go; the first for whom the mailbox is full has all
      # those behind put off with them, so that the thousandth costs next to nothing on a day on which a hundred go.
      class Addressees < Crowd
        # So many are called besides, each time.
        FEW = 64

        # letter: the step; matters: see Journey::Happenings.bits: what may still decide anything when they have it
        attr_reader :letter, :letter_id, :box_id, :matters
        # room: a Sending::Stretch; last_called: whoever was called last; nil: nobody is
        attr_reader :room, :last_called

        # @param late [Boolean] whether a full mailbox has put them off to this stretch
        # @param room [Sending::Room]
        # @param matters [Hash{Integer=>Integer}] by step
        def initialize(stand, span, decision, following, one, late:, room:, matters:)
          super(stand, span, decision, following, one)
          @late, @letter, @matters = late, decision.step, matters[decision.step.id]
          @letter_id, @box_id = @letter.id, one.box.id
          @room = room.between(one.box, span.opens, span.opens + span.length)
          @numbers, @called = [], 0
          # why: what kept most of them; whys: what kept the others, by slot
          @why, @whys = nil, {}
        end

        def kind = :letters

        def late? = @late

        # @return [Boolean] whether a full mailbox, and nothing else, has put off all of them, so that the guard has let them pass
        def all_of_full? = @late

        def size = @numbers.size + @slots.size

        # @param one [Traveller]
        # @return [self]
        def <<(one)
          kept_by(one.why, [one.slot]) if late?
          super
        end

        # @param numbers [Array<Integer>] of others before the same step, who are put off to this stretch; they keep their order, too
        # @param length [Integer] of the stretch over which they were spread
        # @param why [Symbol] what kept all of them
        def adopt(numbers, length, why)
          kept_by(why, numbers)
          return @numbers.concat(numbers) if length == @span.length

          @slots.concat(numbers.map { |number| Turns.slot(number) })
        end

        # @return [Symbol, nil] what has kept one of them
        def why(one) = @whys.fetch(one.slot, @why)

        # @param turns [Turns]
        def line_up(turns)
          @gathers = false
          @numbers.concat(numbers(turns))
          @slots = []
          # What lies in two days of the mailbox, or of the turns, is gone through one by one.
          @singly = !turns.one_day?(@span.opens, @span.opens + @span.length) || !@room.one_day?
          @numbers.sort!
          call_some(turns, @singly ? size : likely_to_go(turns))
        end

        # Those called before have had their turns.
        def call_more(turns)
          call_some(turns, few)
        end

        # Those behind one who was put off, if they go together; they are members no longer.
        # @param at [Integer] on whose turn
        # @return [Array(Array<Integer>, Array<Integer>)] Turns.number of those whose turns come all the same, and of the others
        def give_up_behind(one, at)
          return [[], []] if @singly

          own = Turns.number(at - @span.opens, one)
          behind = @numbers.bsearch_index { |number| number > own } || size
          still, others = @numbers[behind...@called], @numbers.drop(@called)
          @numbers.pop(size - behind)
          @called, @last_called = behind, nil
          [still, others]
        end

        private

        # @param slots [Array<Integer>] or numbers, of Turns.number
        def kept_by(why, slots)
          @why ||= why
          slots.each { |slot| @whys[Turns.slot(slot)] = why } unless @why == why
        end

        # Their share of what is left of the day. Those put off are the last of theirs, so of the others more go; and to call somebody in
        # vain costs less than to call them later, by themselves.
        def likely_to_go(turns)
          all, left = turns.gathered_for(@box), @room.left
          return size if left >= all

          share = left * size / all
          (late? ? share : 2 * share) + few
        end

        def few = FEW

        def call_some(turns, count)
          some = @numbers[@called, count]
          @called += some.size
          @last_called = (turns.whose(some.last) unless some.empty?)
          turns.call_all(some, @span.opens, self)
        end
      end
    end
  end
end
