# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # How those who are alike go through a Rehearsal together: what comes next is decided for a crowd, and only the minute is theirs.
      module Together
        private

        # Those who begin at one place, and of whom the same is known, begin together.
        def set_out(travellers, now)
          crowds = Hash.new { |all, place| all[place] = {}.compare_by_identity }.compare_by_identity
          travellers.each do |one|
            next ahead(one, now) unless one.heard == 0

            crowd = crowds[one.place][one.core]
            next crowd << one if crowd && crowd.box.equal?(one.box) && crowd.heard == one.had_letter

            joined = ahead(one, now)
            crowds[one.place][one.core] = joined if joined.is_a?(Crowd)
          end
        end

        # @param span [Calendar::Timing::Span] one and the same for all of them, on a later day
        # @param late [Boolean] whether a full mailbox puts them off to it
        # @return [Crowd] those like them for whom the same comes next
        def gathering(stand, span, decision, one, late: false)
          crowds = @crowds[span] ||= {true => {}.compare_by_identity, false => {}.compare_by_identity}
          crowds[one.had_letter][one.box] ||= crowd(stand, span, decision, one, late).tap do |crowd|
            @turns.gather(crowd, span.opens) if span.opens <= @end
          end
        end

        def crowd(stand, span, decision, one, late)
          all = [stand, span, decision, @plan.beyond(decision), one]
          return Crowd.new(*all) unless decision.is_a?(Journey::Decisions::Send)

          (one.box.pace ? Paced : Addressees).new(*all, late: late, room: @room, matters: @matters)
        end

        # The turn of one of a crowd that has something done.
        def step(crowd, one, at)
          one.decide(crowd.decision, at)
          turn(one, at)
        end

        # The turn of one of a crowd that has a letter to come.
        def called(crowd, one, at)
          # They were put off with others meanwhile.
          return if crowd.gathers?
          return wait_together(crowd, one, at) if (crowd.box.pace || !@lines.empty?) && line?(crowd.box, at)

          kept = crowd.room.grant(one.id, one.lately, at)
          if kept then kept_back(crowd, one, at, kept)
          elsif crowd.late? then leaves(crowd, one, at, one.wanted, crowd.why(one))
          else leaves(crowd, one, at, at, nil)
          end
          crowd.call_more(@turns) if crowd.last_called.equal?(one)
        end

        # As #sent, and on.
        def leaves(crowd, one, at, wanted, why)
          @letters << Letter.new(one.id, crowd.letter_id, crowd.box_id, at, wanted, why)
          one.had_letter = true
          react(one, crowd.letter, at, crowd.matters) unless crowd.matters == 0
          on_from(crowd, one, at)
        end

        # Everybody of a crowd that passes a fork; nobody is in another's way.
        def pass_on(crowd)
          crowd.each(@turns) { |one, at| on_from(crowd, one, at) }
        end

        # As a rule they stay together.
        def on_from(crowd, one, at)
          one.go(crowd.following, at)
          onward = crowd.onward
          return onward << one if onward && (crowd.all_onward ? onward.ready?(one) : onward.takes?(one, at))

          reaction = crowd.reaction
          return reacts(one, reaction, one.pending.first) if reaction&.of?(one, at)

          joined = ahead(one, at)
          case joined
          when Crowd then crowd.lead_to(joined)
          when Reaction then crowd.reaction = joined
          end
        end

        def kept_back(crowd, one, at, why)
          joined = later(kept(crowd, one, at, why), at, why)
          all_kept_back(crowd, one, at, joined) if why == :full && joined.is_a?(Addressees)
        end

        # @param at [Integer] since when
        # @return [Traveller]
        def kept(crowd, one, at, why)
          return one.decide(crowd.decision, at, why) unless crowd.late?

          one.due, one.why = at, why
          one
        end

        # They stay together here as well.
        # @param full [Addressees] to which one of them was put off
        def all_kept_back(crowd, one, at, full)
          still, others = crowd.give_up_behind(one, at)
          unless crowd.all_of_full?
            _, still = put_off_first(crowd, still)
            alone, others = put_off_first(crowd, others)
            @turns.call_all(alone, crowd.opens, crowd)
          end
          @turns.hand_over(still, full)
          put_off_all(crowd, still.concat(others), full, :full)
        end

        # @param numbers [Array<Integer>] of Turns.number, of some who were of that crowd
        # @param later [Addressees] whom they join
        def put_off_all(crowd, numbers, later, why)
          @taken += numbers.size / Rehearsal::AS_A_TURN
          later.adopt(numbers, crowd.length, why)
        end

        # @param numbers [Array<Integer>] of Turns.number
        # @return [Array(Array<Integer>, Array<Integer>)] of those whom the guard may keep, to meet it on their own turn, and of others
        def put_off_first(crowd, numbers)
          alone, others = [], numbers
          if crowd.room.guard?
            alone, others = numbers.partition { |number| crowd.room.guarded?(@turns.whose(number).lately, crowd.time_of(number)) }
          end
          others.each { |number| kept(crowd, @turns.whose(number), crowd.time_of(number), :full) } unless crowd.late?
          [alone, others]
        end
      end
    end
  end
end
