# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # The ways of a great many through one plan, on paper: as Path says of each, but where somebody is as others were before them, the
      # machine is not asked and nothing is made for it. It is meant for one piece of work.
      class Ways
        DONE = [Decisions::Send, Decisions::Do].freeze
        LAST = [Decisions::Leave, Decisions::Finish, Decisions::Wait].freeze
        private_constant :DONE, :LAST

        # @param alike [Alike]
        # @param plan [Plan]
        def initialize(alike, plan)
          @alike, @plan = alike, plan
        end

        # As Path#steps.
        # @return [Array<Array(Steps, Time)>]
        def steps(known, place, now, upto: nil)
          steps, heard = [], Happenings.bits(known.events.map(&:kind))
          Path::MOST.times do
            place, now, over = along(known, heard, place, now, upto, steps)
            return steps if over

            decision, now = @alike.soonest(@plan, place, known, now)
            return steps if upto && now > upto

            steps << [decision.step, decision.is_a?(Decisions::Send) ? decision.due.at : now] if DONE.include?(decision.class)
            return steps if LAST.include?(decision.class)

            place = @plan.behind(decision, place, now)
            now = [now, decision.at].max if decision.is_a?(Decisions::Take)
          end
          raise Error.new("This plan does not end.", code: :endless)
        end

        # As Path#letters.
        def letters(known, place, now, upto: nil) = steps(known, place, now, upto: upto).select { |step, _| step.is_a?(Steps::Letter) }

        private

        # As far as others were before them.
        # @param heard [Integer] see Happenings.bits
        # @param steps [Array] to which it adds
        # @return [Array(Place, Time, Boolean)] where they come to by that, when, and whether the time is over
        def along(known, heard, place, now, upto, steps)
          return [place, now] if place.begun || !place.base.subsec.zero?

          stands, step_id, came, at = @alike.stands(@plan, known), place.step_id, place.base.to_i, nil
          limit, earliest = upto&.to_i, now.to_r
          while (leg = leg(stands[step_id], came, heard))
            due = leg.at(known.seed)
            # What is due already hangs on what time it is.
            break if due < (at || earliest)
            return [place, now, true] if limit && due > limit

            decision = leg.decision
            steps << [decision.step, Time.at(due).utc] if DONE.include?(decision.class)
            step_id = @plan.beyond(decision)
            came = at = due
          end
          at ? [place.on(step_id, Time.at(at).utc), Time.at(at).utc] : [place, now]
        end

        def leg(stand, came, heard)
          stand.leg(came) if stand && (heard & stand.heeds).zero?
        end
      end
    end
  end
end
