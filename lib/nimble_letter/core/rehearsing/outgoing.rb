# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # Letters in a Rehearsal, and the room they find in mailboxes.
      module Outgoing
        private

        # The turn of somebody who has a letter to come.
        def letter(one, at) = line?(one.box, at) ? wait(one, at) : goes(one, at)

        # It goes, unless something keeps it.
        def goes(one, at)
          step = one.decision.step
          return lapses(one, at) if step.not_after && too_late?(one, at)

          return if missed?(one, at) && reopens(one, at)

          kept = @room.grant(one.box, one.id, at)
          return later(one, at, kept) if kept

          sent(one, step, at, one.wanted, one.why)
          one.go(@plan.following(step.id), at)
          ahead(one, at)
        end

        # @param wanted [Integer] when it was due, in seconds since 1970
        # @param why [Symbol, nil] what kept it
        def sent(one, step, at, wanted, why)
          @letters << Letter.new(one.id, step.id, one.box.id, at, wanted, why)
          one.had_letter = true
          matters = @matters[step.id]
          react(one, step, at, matters) unless matters.zero?
        end

        # @param matters [Integer] see Journey::Happenings.bits: what may still decide anything for them
        def react(one, step, at, matters)
          reactions = @assumption.reactions(one.id, step, at, @links[step], matters)
          one.expect(reactions) unless reactions.empty?
        end

        # A letter that was held up until it may not go any more.
        def too_late?(one, at)
          return false unless at > one.wanted

          decision = @machine.next(@plan, one.place, one.known, Time.at(at).utc)
          decision.is_a?(Journey::Decisions::Skip) && decision.reason == :too_late
        end

        # The step counts from where the one before did, as one that was passed by on the way.
        def lapses(one, at)
          one.go(@plan.following(one.step_id), one.base)
          ahead(one, at)
        end

        def missed?(one, at) = at - one.due > Sending::Room::LATE_SECONDS

        # @return [Object, nil] nil: there is no later time for it
        def reopens(one, at)
          # A mailbox that opens puts off many to the same instant.
          span = opening_span(one, at)
          opening = span ? its_own(span, one) : opening_alone(one, at)
          postpone(one, span, opening) || true if opening > at
        end

        # What keeps the mailbox has it wait in line; what keeps this letter puts it off to the next opening of its window.
        # @param kept [Symbol] of Sending::Room
        # @return [Crowd, Object] the crowd they wait in, if they do
        def later(one, at, kept)
          one.why = kept
          return wait(one, at) unless Sending::Room::OWN.include?(kept)

          opens, one.why = @room.earliest(one.box, one.id, at)
          span = opening_span(one, opens)
          postpone(one, span, span ? its_own(span, one) : opening_alone(one, opens))
        end

        # @param span [Calendar::Timing::Span, nil] to which others like them are put off as well
        # @param opening [Integer] their own time
        # @return [Crowd, Object] the crowd they wait in, if they do
        def postpone(one, span, opening)
          return put_off(one, one.due = opening) if span.nil? || heeded(one) || !together?(span)

          gathering(one.stand(@machine, @plan), span, one.decision, one, late: true) << one
        end

        # @return [Boolean] whether those who are put off to it can go together; whom something takes out meanwhile can't
        def together?(span) = @turns.later?(span.opens) && @room.same_day?(span.opens, span.opens + span.length)

        def its_own(span, one) = span.seconds(Journey::Machine.spacing(one.seed, one.step_id))

        # @return [Calendar::Timing::Span, nil] over which a mailbox that is full or opens takes those like them; nil: no even stretch
        def opening_span(one, from)
          return if one.why.nil? || one.why == :guard

          stand = one.stand(@machine, @plan)
          stand && @machine.opening_span(stand, one.decision.step, one, from, @room.hours_of(one.box))
        end

        def opening_alone(one, from) =
          @machine.opening(one.decision.step, one.place, one.known, Time.at(from).utc, @room.hours_of(one.box)).at.ceil.to_i

        # What takes somebody out while their letter waits comes first.
        def put_off(one, at)
          heard = heeded(one)
          return wake(one, at) unless heard && heard.at.to_i < at

          one.undecide
          wake(one, heard.at.to_i)
        end
      end
    end
  end
end
