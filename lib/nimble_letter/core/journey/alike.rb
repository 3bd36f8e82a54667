# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # The machine for a great many at once: it decides for those who are alike as it did for the first of them (Stand). Alike are those
      # who stand before the same step, came to it on the same day and of whom the same is known, but for the seed, and for what that
      # step does not heed (Plan#heeds?). Everybody else it hands on. It is meant for one piece of work.
      class Alike
        SHARED = [Decisions::Send, Decisions::Do, Decisions::Take, Decisions::Skip].freeze
        NOWHERE = {}.freeze
        private_constant :SHARED, :NOWHERE

        # @param machine [Machine]
        def initialize(machine)
          @machine = machine
          @plans = {}.compare_by_identity
          # What is known of people goes when its work is done.
          @kin, @kins = ObjectSpace::WeakMap.new, {}
          @plain = {}
        end

        # As Machine#soonest.
        def soonest(plan, place, known, now)
          stand = stand(plan, place, known) or return @machine.soonest(plan, place, known, now)

          leg = stand.leg(place.base.to_i)
          at = leg && Time.at(leg.at(known.seed)).utc
          # What is due already hangs on what time it is.
          return [of(leg, place, at), at] if at && at >= now

          @machine.soonest(plan, place, known, now).tap { |decision, due| keep(stand, place, known, decision, due) }
        end

        # @param came [Time] to the step
        # @return [Stand::Leg, nil] what comes next for somebody who came then, where it has been decided for their like
        def leg(plan, step_id, came, known)
          stand = stands(plan, known)[step_id]
          stand.leg(came.to_i) if stand && unheeded?(plan, step_id, known)
        end

        # As Machine#next and #opening.
        def next(...) = @machine.next(...)

        def opening(...) = @machine.opening(...)

        # Where people can be alike whose like is known of.
        # @param known [Known]
        # @return [Hash{Integer=>Stand}] by step; nil for steps at which everybody is somebody for themselves
        def stands(plan, known)
          return NOWHERE if known.away_until || plan.ends_at

          (@plans[plan] ||= {})[kin(known)] ||= Hash.new { |all, step_id| all[step_id] = stand_before(plan, step_id, known) }
        end

        # As #opening, from an instant that is the same for many.
        # @param one [Traveller] somebody for whom it is put off to then
        # @param from [Integer] seconds since 1970
        # @param hours [Calendar::Hours, nil] one and the same for one mailbox
        # @return [Calendar::Timing::Span, nil] over which the step is open for those like them; nil: no even stretch
        def opening_span(stand, step, one, from, hours)
          stand.opening(from, hours) do
            step.timing.reopening_span(Time.at(from).utc, @machine.about(step, one.place, one.known), hours)
          end
        end

        private

        # @return [Stand, nil] nil: somebody for themselves
        def stand(plan, place, known)
          return unless place.step_id && place.begun.nil?

          found = stands(plan, known)[place.step_id]
          found if found && unheeded?(plan, place.step_id, known)
        end

        def unheeded?(plan, step_id, known) = known.events.none? { |event| plan.heeds?(step_id, event.kind) }

        def stand_before(plan, step_id, known)
          step = step_id && plan[step_id]
          Stand.new(step, @machine.zone(step, known), plan.heeded(step_id)) if step && spaced?(step)
        end

        def spaced?(step)
          return step.within&.spaced_by_day? if step.is_a?(Steps::Fork)

          step.timing.spaced_by_day? && step.not_after.nil? && !(step.is_a?(Steps::Letter) && step.look_first)
        end

        # @return [Object] the same for all of whom the same is known
        def kin(known)
          plain = known.answers.empty? && known.nods.empty? && known.had.empty?
          return (@plain[known.their_zone.identifier] ||= {}.compare_by_identity)[known.their_calendar] ||= Object.new if plain

          @kin[known.core] ||= begin
            told = [known.their_zone.identifier, known.answers, known.nods, known.had, known.their_calendar.object_id]
            @kins[told] ||= Object.new
          end
        end

        def keep(stand, place, known, decision, due)
          return unless SHARED.include?(decision.class)
          return if decision.is_a?(Decisions::Take) && decision.because

          span = @machine.span(decision.step, place, known)
          return unless span && Decisions.at(decision) == due && Time.at(Stand::Leg.new(decision, span).at(known.seed)) == due

          stand.keep(place.base.to_i, decision, span)
        end

        def of(leg, place, at)
          decision = leg.decision
          case decision
          when Decisions::Take then Decisions::Take.new(step: decision.step, lane: decision.lane, at: at)
          when Decisions::Skip then Decisions::Skip.new(step: decision.step, reason: decision.reason, at: at, due: due(leg, place, at))
          else decision.class.new(step: decision.step, due: due(leg, place, at))
          end
        end

        def due(leg, place, at) = Calendar::Timing::Due.new(at, place.base, leg.span.moved, false)
      end
    end
  end
end
