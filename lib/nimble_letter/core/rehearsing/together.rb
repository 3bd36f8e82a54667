# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # How those who are alike go through a Rehearsal together: what comes next is decided for a crowd, and only the minute is theirs.
      module Together
        private

        # @param kind [Class] Crowd or PutOff
        # @param span [Calendar::Timing::Span] one and the same for all of them, on a later day
        # @return [Crowd] those for whom the same comes next, they among them
        def gather(kind, stand, span, decision, one)
          crowds = @crowds[span] ||= []
          crowd = crowds.find { |all| all.heard == one.had_letter && all.box.equal?(one.box) }
          unless crowd
            crowds << crowd = kind.new(stand, span, decision, @plan.beyond(decision), one)
            @turns.gather(crowd, span.opens) if span.opens <= @end
          end
          crowd << one
        end

        # The turn of one of a crowd.
        def called(crowd, one, at)
          unless crowd.letter
            one.decide(crowd.decision, at)
            return turn(one, at)
          end
          kept = @room.grant(crowd.box, one.id, at)
          return kept_back(crowd, one, at, kept) if kept

          sent(one, crowd.letter, at, at, nil)
          on_from(crowd, one, at)
        end

        # Everybody of a crowd that passes a fork; nobody is in another's way.
        def pass_on(crowd)
          crowd.each { |one, at| on_from(crowd, one, at) }
        end

        # The turn of those whom a full mailbox put off: the first goes, or all of them are put off again.
        def call_first(crowd, at)
          return put_off_again(crowd, at) if @room.full?(crowd.box, at)

          one = crowd.shift
          one.due = at
          kept = @room.grant(crowd.box, one.id, at)
          if kept
            later(one, at, kept)
          else
            sent(one, crowd.letter, at, one.wanted, one.why)
            on_from(crowd, one, at)
          end
          crowd.call_next(@turns)
        end

        # As a rule they stay together.
        def on_from(crowd, one, at)
          one.go(crowd.following, at)
          return crowd.onward << one if crowd.onward&.takes?(one, at)

          joined = ahead(one, at)
          crowd.onward = joined if joined.is_a?(Crowd)
        end

        def kept_back(crowd, one, at, kept)
          one.decide(crowd.decision, at)
          return later(one, at, kept) unless kept == :full && one.pending.empty?

          full = crowd.put_off
          # They stay together here as well.
          return full << one.tap { one.why = kept } if full&.gathers? && @room.same_day?(crowd.full_at, at)

          joined = later(one, at, kept)
          crowd.put_off, crowd.full_at = joined, at if joined.is_a?(PutOff)
        end

        def put_off_again(crowd, at)
          opens, = @room.earliest(crowd.box, nil, at)
          span = opening_span(crowd.first, opens)
          some = crowd.give_up
          return some.each { |one| later(one, at, :full) } unless span && together?(span)

          gather(PutOff, crowd.stand, span, crowd.decision, some.pop).concat(some)
        end
      end
    end
  end
end
