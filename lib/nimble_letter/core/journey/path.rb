# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # A member's way through a plan on paper: what the machine would decide if nothing happened but what is known. Letters go
      # when they are due, tasks are done as soon as they are made.
      class Path
        # decision: of Decisions; place: where it was taken; at: when
        Point = Struct.new(:decision, :place, :at)
        # Longer than any plan can be walked.
        MOST = 10_000

        # @param machine [Machine, Alike]
        def initialize(machine, plan, known)
          @machine, @plan, @known = machine, plan, known
        end

        # @param place [Place]
        # @param now [Time]
        # @param upto [Time, nil] nothing after it is reckoned
        # @return [Array<Point>] without waiting for a time; the last one is Leave, Finish, or a Wait for a person
        def ahead(place, now, upto: nil)
          points = []
          MOST.times do
            decision, now = @machine.soonest(@plan, place, @known, now)
            return points if upto && now > upto

            points << Point.new(decision, place, now)
            return points if [Decisions::Leave, Decisions::Finish, Decisions::Wait].include?(decision.class)

            place = @plan.behind(decision, place, now)
            now = [now, decision.at].max if decision.is_a?(Decisions::Take)
          end
          raise Error.new("This plan does not end.", code: :endless)
        end

        # @return [Array<Array(Steps::Letter, Time)>] the letters ahead with the time each would go at
        def letters(place, now, upto: nil) = steps(place, now, upto: upto).select { |step, _| step.is_a?(Steps::Letter) }

        # @return [Array<Array(Steps, Time)>] what is sent and what is done ahead, with the time of each
        def steps(place, now, upto: nil)
          ahead(place, now, upto: upto).filter_map do |point|
            case point.decision
            when Decisions::Send then [point.decision.step, point.decision.due.at]
            when Decisions::Do then [point.decision.step, point.at]
            end
          end
        end
      end
    end
  end
end
