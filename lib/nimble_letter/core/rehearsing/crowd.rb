# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Those before one step who are alike but for their seed and came to it on one day, so that the same comes next for them, over one
      # stretch of time. They gather until that begins; then the turn of each of them comes.
      class Crowd
        # decision: what comes next, with the time of the first of them; following: the step they come to by it; box: of Sending::Room,
        # from which they hear; heard: whether they have
        attr_reader :stand, :decision, :following, :box, :heard
        # onward: the crowd to which the last of them went on; all_onward: whether all of them go on to it of whom the same is known
        attr_reader :onward, :all_onward
        # @return [Reaction, nil] what the last of them did at a fork
        attr_accessor :reaction
        # @return [Integer] when their window shuts, maybe on a later day on which it has opened again
        attr_writer :open_until

        # @param stand [Journey::Stand] before which all of them are
        # @param span [Calendar::Timing::Span] over which their minutes are spaced
        # @param decision [Journey::Decisions::Send, …]
        # @param following [Integer, nil] a step's id
        # @param one [Traveller] somebody of them
        def initialize(stand, span, decision, following, one)
          @stand, @span, @decision, @following, @box, @heard = stand, span, decision, following, one.box, one.had_letter
          @heeds, @step_id, @gathers = stand.heeds, one.step_id, true
          @open_until = span.opens + span.length
          @slots = []
        end

        # What a turn of theirs is: one of them does :steps or has :letters, or all of them are :passing, who are in nobody's way.
        def kind = @decision.is_a?(Journey::Decisions::Take) ? :passing : :steps

        # @param traveller [Traveller]
        # @return [self]
        def <<(traveller)
          @slots << traveller.slot
          self
        end

        # @return [Integer] when its stretch begins; length: for so many seconds
        def opens = @span.opens

        def length = @span.length

        # @return [Boolean] whether their window is open then
        def open?(at) = at < @open_until

        # @return [Boolean] whether it has not begun
        def gathers? = @gathers

        # @param one [Traveller] of whom the same is known, and who comes from the step before
        # @param came [Integer] then, in seconds since 1970
        # @return [Boolean] whether the same comes next for them, and they can still join
        def takes?(one, came) = ready?(one) && @span.equal?(@stand.leg(came)&.span)

        # As #takes?, for whoever it is known of that the same comes next.
        def ready?(one) = @gathers && one.heard & @heeds == 0

        # @param onward [Crowd] to which one of them went on
        def lead_to(onward)
          @onward = onward
          @all_onward = onward.for_all?(opens, opens + length)
        end

        # @return [Boolean] whether it is for whoever comes to its step between these
        def for_all?(first, last)
          [first, last].all? { |came| @span.equal?(@stand.leg(came)&.span) } && @span.all_day
        end

        # @param number [Integer] of Turns.number
        # @return [Integer] when it is that one's turn
        def time_of(number) = @span.opens + Turns.after(number)

        # @param turns [Turns]
        # @yieldparam one [Traveller]
        # @yieldparam at [Integer] when it would be their turn
        def each(turns)
          numbers(turns).each { |number| yield turns.whose(number), time_of(number) }
        end

        # The stretch begins: each of them is called, or all at once.
        # @param turns [Turns]
        def line_up(turns)
          @gathers = false
          # Before any of them would come to what is next within the same second.
          return turns.call(turns.whose(@slots.min), @span.opens, self) if kind == :passing

          turns.call_all(numbers(turns), @span.opens, self)
        end

        private

        # @return [Array<Integer>] when it is the turn of each of them, see Turns#spread
        def numbers(turns) = turns.spread(@slots, @span.length, @step_id)
      end
    end
  end
end
