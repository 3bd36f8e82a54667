# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # What comes next of somebody in a Rehearsal, and when.
      module Ahead
        private

        # What the journey decides next; or what is assumed to happen before that.
        # @param now [Integer] seconds since 1970
        # @return [Crowd, Reaction, Object] the crowd they have joined, if they have, or what they did before the step
        def ahead(one, now)
          return out(one, now) if @plan.over?(one.step_id, one.heard)

          stand = one.stand(@machine, @plan)
          leg = stand&.leg(one.base) or return expects(one, now) || alone(one, now)
          opens = leg.span.opens
          return gathering(stand, leg.span, leg.decision, one) << one if opens >= now && @turns.later?(opens)

          at = leg.at(one.seed)
          (at >= now) ? decided(one, leg.decision, at, at) : alone(one, now)
        end

        # At a fork those who react alike are alike as well.
        # @return [Reaction, nil] nil: what becomes of them is not what becomes of their like
        def expects(one, now)
          return if one.pending.empty?

          stand = one.stand_alike(@machine, @plan)
          event = heeded(one) if stand && one.unheeded?(stand)
          return unless event && event.at.to_i > now

          lane, delay = stand.reaction(event) { @machine.soonest(@plan, one.place, one.known.plus(event), event.at) }
          at = event.at.to_i + delay if lane
          return unless lane && only?(one, event, at) && at < stand.leg(one.base)&.at(one.seed).to_i

          Reaction.new(event.id, stand, @plan.onto(stand.step.id, lane), delay).tap { |reaction| reacts(one, reaction, event) }
        end

        # Whoever takes a lane is in nobody's way, and has nothing to wait for.
        def reacts(one, reaction, event)
          came = event.at.to_i
          at = came + reaction.delay
          return if at > @end

          one.hear(at)
          one.follow(event, reaction.step_id, came)
          onward = reaction.onward
          return onward << one if onward && onward.opens >= at && onward.takes?(one, came)

          joined = ahead(one, at)
          reaction.onward = joined if joined.is_a?(Crowd)
        end

        # @return [Boolean] whether nothing else happens to them by then
        def only?(one, event, at) = one.pending.all? { |other| other.equal?(event) || other.at.to_i > at }

        def alone(one, now)
          one.hear(now)
          decision, at = @machine.soonest(@plan, one.place, one.known, Time.at(now).utc)
          waits = decision.is_a?(Journey::Decisions::Wait)
          return nod(one, decision, now) if waits && decision.for == :nod

          at = at.ceil.to_i
          heard = heeded(one)
          if heard && (waits || heard.at.to_i < at)
            one.undecide
            return wake(one, heard.at.to_i)
          end
          # Nothing comes any more.
          return if waits

          # What is long due has missed its time already.
          decided(one, decision, Journey::Decisions.at(decision).to_i, (at > now) ? at : now)
        end

        def decided(one, decision, due, at)
          one.decide(decision, due)
          wake(one, at)
          one
        end

        # @return [Journey::Known::Event, nil] the first to come that decides anything at the step they stand before
        def heeded(one)
          one.pending.each { |event| return event if @plan.heeds?(one.step_id, event.kind) }
          nil
        end

        # Somebody looks as soon as it is time to.
        def nod(one, decision, now)
          one.known = one.known.plus(nods: one.known.nods + [decision.step.id])
          ahead(one, now)
        end
      end
    end
  end
end
