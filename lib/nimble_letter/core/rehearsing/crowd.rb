# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Those before one step who are alike but for their seed and came to it on one day, so that the same comes next for them, over one
      # stretch of time. They gather until that begins; then the turn of each of them comes.
      class Crowd
        # decision: what comes next, with the time of the first of them; following: the step they come to by it; box: of Sending::Room,
        # from which they hear; heard: whether they have; letter: the step, where it is a letter that comes next
        attr_reader :stand, :decision, :following, :box, :heard, :letter
        # @return [Crowd, nil] to which the last of them went on
        attr_accessor :onward
        # @return [PutOff, nil] to which the last of them was put off; full_at: when, in seconds since 1970
        attr_accessor :put_off, :full_at

        # @param stand [Journey::Stand] before which all of them are
        # @param span [Calendar::Timing::Span] over which their minutes are spaced
        # @param decision [Journey::Decisions::Send, …]
        # @param following [Integer, nil] a step's id
        # @param one [Traveller] somebody of them
        def initialize(stand, span, decision, following, one)
          @stand, @span, @decision, @following, @box, @heard = stand, span, decision, following, one.box, one.had_letter
          @letter = decision.step if decision.is_a?(Journey::Decisions::Send)
          @members, @step_id, @gathers = [], one.step_id, true
        end

        # @param traveller [Traveller]
        # @return [self]
        def <<(traveller)
          @members << traveller
          self
        end

        # @return [Boolean] whether it has not begun
        def gathers? = @gathers

        # @param one [Traveller] of whom the same is known, and who comes from the step before
        # @param came [Integer] then, in seconds since 1970
        # @return [Boolean] whether the same comes next for them, and they can still join
        def takes?(one, came) = @gathers && @span.equal?(@stand.leg(came)&.span) && (one.heard & @stand.heeds).zero?

        # @return [Boolean] whether they only pass on, so that nobody is in another's way
        def passes? = @decision.is_a?(Journey::Decisions::Take)

        # @yieldparam one [Traveller]
        # @yieldparam at [Integer] when it would be their turn
        def each
          @members.zip(times) { |one, at| yield one, at }
        end

        # The stretch begins: each of them is called, or all at once.
        # @param turns [Turns]
        def line_up(turns)
          @gathers = false
          passes? ? turns.call(@members.first, @span.opens, self) : turns.call_all(@members, times, self)
        end

        private

        # @return [Array<Integer>] when it is the turn of each of them
        def times
          Calendar::Timing.spread_all(@span.opens, @span.length, @members.map { |one| Journey::Machine.spacing(one.seed, @step_id) })
        end
      end
    end
  end
end
