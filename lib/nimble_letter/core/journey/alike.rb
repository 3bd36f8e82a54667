# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # The machine for a great many at once: it decides for those who are alike as it did for the first of them. Alike are those who
      # stand before the same step, came to it on the same day and of whom the same is known, but for the seed that spaces what they
      # get within a window, and for what that step does not heed (Plan#heeds?). Everybody else it hands on. It is meant for one piece of
      # work: it keeps what it has decided.
      class Alike
        # What comes next for all of them. decision: that of the first; span: of Calendar::Timing, when it is due for each
        Leg = Struct.new(:decision, :span)
        SHARED = [Decisions::Send, Decisions::Do, Decisions::Take, Decisions::Skip].freeze
        private_constant :Leg, :SHARED

        # @param machine [Machine]
        def initialize(machine)
          @machine = machine
          @plans = {}.compare_by_identity
          # What is known of people goes when its work is done.
          @kin, @kins = ObjectSpace::WeakMap.new, {}
          @openings = {}.compare_by_identity
        end

        # As Machine#soonest.
        def soonest(plan, place, known, now)
          legs = legs(plan, place, known, now) or return @machine.soonest(plan, place, known, now)

          zone = @machine.zone(plan[place.step_id], known)
          leg = legs[Calendar::Zones.day_number(zone, now)] || legs[now]
          return @machine.soonest(plan, place, known, now).tap { |said| keep(legs, zone, plan, place, known, said) } unless leg

          at = leg.span.at(@machine.spacing(leg.decision.step, known))
          [of(leg, place, at), at]
        end

        # As Machine#opening.
        def opening(step, place, known, from)
          return @machine.opening(step, place, known, from) if known.away_until

          kept = ((@openings[step.timing] ||= {})[kin(known)] ||= {})[from] ||=
            step.timing.reopening_span(from, @machine.about(step, place, known)) || :none
          return @machine.opening(step, place, known, from) if kept == :none

          Calendar::Timing::Due.new(kept.at(@machine.spacing(step, known)), from, kept.moved, false)
        end

        # As Machine#next.
        def next(...) = @machine.next(...)

        private

        # @return [Hash, nil] what is kept of those alike, by the day or the instant they came; nil: somebody for themselves
        def legs(plan, place, known, now)
          return unless place.step_id && place.begun.nil? && known.away_until.nil? && place.base == now

          by_kin = (@plans[plan] ||= steps(plan))[place.step_id] or return
          return if known.events.any? { |event| plan.heeds?(place.step_id, event.kind) }

          by_kin[kin(known)] ||= {}
        end

        # @return [Hash{Integer=>Hash}] the steps before which people can be alike
        def steps(plan)
          return {} if plan.ends_at

          plan.all.select { |step| spaced?(step) }.to_h { |step| [step.id, {}] }
        end

        def spaced?(step)
          return step.within&.spaced_by_day? if step.is_a?(Steps::Fork)

          step.timing.spaced_by_day? && step.not_after.nil? && !(step.is_a?(Steps::Letter) && step.look_first)
        end

        # @return [Integer] the same for all of whom the same is known
        def kin(known)
          @kin[known.core] ||= begin
            told = [known.their_zone.identifier, known.answers, known.nods, known.had, known.their_calendar.object_id]
            @kins[told] ||= @kins.size + 1
          end
        end

        def keep(legs, zone, plan, place, known, said)
          decision, at = said
          return unless SHARED.include?(decision.class)
          return if decision.is_a?(Decisions::Take) && decision.because

          span = @machine.span(decision.step, place, known)
          return unless span && at_of(decision) == at && span.at(@machine.spacing(decision.step, known)) == at

          legs[span.all_day ? Calendar::Zones.day_number(zone, place.base) : place.base] = Leg.new(decision, span)
        end

        def at_of(decision) = decision.respond_to?(:at) ? decision.at : decision.due.at

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
