# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # The one journey: (plan, place, known, now) to a decision with its reason. It keeps nothing and looks at no clock; whatever
      # moves a member, or says what would, asks it, and gets the same answer.
      class Machine
        # @param calendar [Calendar::WorkCalendar]
        # @param our_zone [TZInfo::Timezone]
        def initialize(calendar:, our_zone:)
          @calendar, @our_zone = calendar, our_zone
          freeze
        end

        # @param plan [Plan]
        # @param place [Place]
        # @param known [Known]
        # @param now [Time] UTC
        # @return [Decisions::Wait, Decisions::Send, Decisions::Do, Decisions::Pass, Decisions::Take, Decisions::Skip,
        #   Decisions::Leave, Decisions::Finish]
        # @raise [Known::NotAsked] when it must know more, see Plan#asks
        def next(plan, place, known, now)
          step = place.step_id && plan[place.step_id]
          leaving(plan, step, place, known, now) || (step ? at(step, place, known, now) : Decisions::Finish.new(at: place.base))
        end

        # What it decides next, and when: as #next, once the time is over that it would wait for.
        # @return [Array(Object, Time)]
        def soonest(plan, place, known, now)
          decision = self.next(plan, place, known, now)
          return [decision, now] unless decision.is_a?(Decisions::Wait) && decision.until_at

          step, due, now = decision.step, decision.due, decision.until_at
          # It is known already when it is due.
          return [due_now(step, due, place, known, now), now] if decision.for == :time && !ends_meanwhile?(plan, now)

          soonest(plan, place, known, now)
        end

        # @return [Calendar::Timing::Due, nil] when the step a member stands before is due, whoever else has a say; nil without its date
        def due(step, place, known)
          due = step.timing.due(about(step, place, known))
          (due && step.is_a?(Steps::Letter) && known.away_until) ? back(due, step, place, known) : due
        end

        # @param hours [Calendar::Hours, nil] of the mailbox it comes from
        # @return [Calendar::Timing::Due] when a step that missed its time may be done
        def opening(step, place, known, from, hours = nil) = step.timing.reopening(from, about(step, place, known), hours)

        # @return [Calendar::Timing::Due, nil] when a fork waits no longer
        def limit(fork, place, known) = fork.within&.due(about(fork, place, known))

        # @return [Calendar::Timing::Span, nil] see Calendar::Timing#span
        def span(step, place, known) = timing(step)&.span(about(step, place, known))

        # @return [Integer] the seed of one step for one member: each step has its own minute within the window, so that letters do
        #   not always come at 9:24
        def self.spacing(seed, step_id) = seed * 31 + step_id

        # @return [Calendar::Timing::About]
        def about(step, place, known) =
          Calendar::Timing::About.new(place.base, place.joined, known.dates, known.their_zone, @our_zone,
            calendar(timing(step), known), Machine.spacing(known.seed, step.id))

        # @return [TZInfo::Timezone] by whose clock a step goes
        def zone(step, known) = (timing(step).zone == "theirs") ? known.their_zone : @our_zone

        private

        def timing(step) = step.is_a?(Steps::Fork) ? step.within : step.timing

        # By their clock their holidays count, by ours ours.
        def calendar(timing, known) = (timing.zone == "theirs" && known.their_calendar) || @calendar

        def leaving(plan, step, place, known, now)
          return if known.events.empty? && plan.ends_at.nil? && plan.leave_if.nil?

          awaited = step.is_a?(Steps::Fork) ? Forking.new(step, nil, place, known) : nil
          event =
            known.events.find do |one|
              plan.leaves_on?(one.kind) && !one.by_machine && !place.spent.include?(one.id) && !awaited&.awaits?(one.kind)
            end
          return Decisions::Leave.new(reason: event.kind, at: event.at, because: event) if event
          return Decisions::Leave.new(reason: "end_date", at: plan.ends_at) if plan.ends_at && now >= plan.ends_at

          Decisions::Leave.new(reason: "condition", at: now) if plan.leave_if && known.holds?(plan.leave_if)
        end

        def ends_meanwhile?(plan, now) = plan.ends_at && now >= plan.ends_at

        def at(step, place, known, now)
          return outcome(step, place, known) if place.begun
          return Decisions::Skip.new(step: step, reason: :had_it, at: place.base) if known.had.include?(step.id)
          return Forking.new(step, limit(step, place, known), place, known).decide(now) if step.is_a?(Steps::Fork)

          due = due(step, place, known)
          return without_date(step, place, now) unless due
          return Decisions::Skip.new(step: step, reason: :too_late, at: place.base, due: due) if due.late && step.timing.late == "skip"

          (due.at > now) ? Decisions::Wait.new(step: step, until_at: due.at, for: :time, due: due) : due_now(step, due, place, known, now)
        end

        def due_now(step, due, place, known, now)
          if step.only_for && !known.holds?(step.only_for)
            return Decisions::Skip.new(step: step, reason: :not_for_them, at: due.at, due: due)
          end
          return Decisions::Skip.new(step: step, reason: :too_late, at: due.at, due: due) if too_late?(step.not_after, due, now)
          return Decisions::Do.new(step: step, due: due) unless step.is_a?(Steps::Letter)
          # A lane for those whose address failed holds what can still be done.
          return Decisions::Skip.new(step: step, reason: :address_failed, at: due.at, due: due) if failed?(place, known)
          if step.look_first && !known.nods.include?(step.id)
            return Decisions::Wait.new(step: step, until_at: nil, for: :nod, due: due)
          end

          Decisions::Send.new(step: step, due: due)
        end

        def failed?(place, known) = known.events.any? { |event| event.kind == "bounced" && place.spent.include?(event.id) }

        def too_late?(limit, due, now)
          return false unless limit

          (limit.at && now > limit.at) || (limit.seconds && now > due.at + limit.seconds) || false
        end

        def without_date(step, place, now)
          return Decisions::Leave.new(reason: "no_date", at: now) if step.timing.no_date == "leave"

          Decisions::Skip.new(step: step, reason: :no_date, at: place.base)
        end

        def outcome(step, place, known)
          # A task is done once in a round; clocks of two machines may differ by a little.
          done = known.events.find { |event| event.kind == "task_done" && event.step_id == step.id }
          return Decisions::Pass.new(step: step, at: [done.at, place.begun].max, because: done) if done

          Decisions::Wait.new(step: step, until_at: nil, for: :outcome)
        end

        # Whoever is away reads it the working day after they are back.
        def back(due, step, place, known)
          about = about(step, place, known)
          zone = zone(step, known)
          return due if Calendar::Zones.local(zone, due.at).first > known.away_until

          opens = Calendar::Zones.instant(zone, calendar(step.timing, known).on_or_after(known.away_until + 1), step.timing.morning)
          later = step.timing.next_opening(opens, about)
          Calendar::Timing::Due.new(later.at, due.from, :away, false)
        end
      end
    end
  end
end
