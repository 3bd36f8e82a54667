# frozen_string_literal: true

require "set"

module NimbleLetter
  module Core
    module Journey
      # The steps of a sequence as a frozen tree, with what takes a member out of it.
      class Plan
        # steps of the trunk, in order
        attr_reader :number, :steps, :leave_on, :leave_if, :ends_at

        # @param steps [Array<Steps::Letter, Steps::Task, Steps::Change, Steps::HandOver, Steps::Fork>]
        # @param leave_on [Array<String>] any of Happenings::OPTIONALLY_OUT
        # @param leave_if [Object, nil] a condition; whoever it holds for leaves
        # @param ends_at [Time, nil] everybody still in it leaves then
        # @param number [Integer]
        # @raise [Invalid] when two steps have one id
        def initialize(steps:, leave_on: Happenings::OPTIONALLY_OUT, leave_if: nil, ends_at: nil, number: 1)
          @steps = steps.dup.freeze
          @leave_on = (Happenings::ALWAYS_OUT + (leave_on & Happenings::OPTIONALLY_OUT)).freeze
          @leave_if, @ends_at, @number = leave_if, ends_at, number
          @leaves = @leave_on.to_h { |kind| [kind, true] }.freeze
          @by_id, @follows, @leads, @lanes, @forks = {}, {}, {}, {}, {}
          index(@steps, nil, nil)
          @leaving = Happenings.bits(@leave_on)
          @heeded = @by_id.transform_values { |step| @leaving | Happenings.bits(step.heeds) }.freeze
          [@by_id, @follows, @leads, @lanes, @forks].each(&:freeze)
          freeze
        end

        def leaves_on?(kind) = @leaves.key?(kind)

        # @return [Boolean] whether this could decide anything for somebody who stands before that step; all else waits until they go on
        def heeds?(step_id, kind) = heeded(step_id) & Happenings.bit(kind) != 0

        # @return [Integer] see Happenings.bits: all that could decide anything for those who stand before that step
        def heeded(step_id) = @heeded.fetch(step_id, @leaving)

        # @param heard [Integer] see Happenings.bits
        # @return [Boolean] whether there is nothing left to decide for somebody: every step is behind them, and nothing takes them out
        def over?(step_id, heard) = step_id.nil? && leave_if.nil? && ends_at.nil? && (heard & @leaving).zero?

        # @return [Integer] see Happenings.bits: all that could decide anything when that step is done
        def heeded_after(step_id) = possibly(following(step_id)).inject(heeded(nil)) { |bits, id| bits | heeded(id) }

        # @return [Steps::Letter, …, nil]
        def [](id) = @by_id[id]

        # @return [Array] every step, in the order of the plan, those of lanes behind their fork
        def all = @by_id.values

        # @return [Integer, nil] id of the step that comes when this one is done; nil: none
        def following(id) = @follows.fetch(id)

        # @param decision [Decisions::Send, Decisions::Do, Decisions::Take, Decisions::Skip]
        # @return [Integer, nil] id of the step that somebody comes to by it
        def beyond(decision)
          step_id = decision.step.id
          decision.is_a?(Decisions::Take) ? onto(step_id, decision.lane) : following(step_id)
        end

        # @return [Integer, Steps::Lane, nil] id of the step before it, or the lane it is the first step of; nil: it is the first
        def leading(id) = @leads.fetch(id)

        # @return [Steps::Lane, nil]
        def lane(id) = @lanes[id]

        # @return [Integer] id of the fork that has this lane
        def fork_with(lane_id) = @forks.fetch(lane_id)

        # @return [Array<String>] fields whose dates its steps stand around
        def date_fields = all.filter_map { |step| step.timing&.field unless step.is_a?(Steps::Fork) }.uniq

        # @return [Array<Object>] every condition that may be asked of a member
        def conditions = all.flat_map { |step| asks(step.id) }.push(leave_if).compact.uniq

        # @return [Boolean] whether nothing but the times of letters has to be known, and nobody who has left by now is in it
        def simple? = number == 1 && all.all? { |step| step.is_a?(Steps::Letter) && certain?(step) }

        # @return [Boolean] whether it is certain as soon as its time is known that the step's letter goes
        def certain?(step) = step.only_for.nil? && step.not_after.nil? && !step.look_first && leave_if.nil?

        # @return [Boolean] whether everybody who does nothing has all of its letters, whenever they join
        def every_letter? = simple? && ends_at.nil? && all.all? { |step| step.timing.counted == "step" }

        # Where a member stands once a decision is carried out.
        # @param decision [Decisions::Send, Decisions::Do, Decisions::Pass, Decisions::Take, Decisions::Skip]
        # @return [Place]
        def behind(decision, place, now)
          case decision
          when Decisions::Take then into(place, decision.lane, decision.at, decision.because)
          when Decisions::Pass, Decisions::Skip then after(place, decision.at)
          else after(place, now)
          end
        end

        # @return [Array<Integer>] ids of the steps that whoever stands before one will come to for certain, that one first
        def certainly(step_id)
          on = []
          while step_id
            on << step_id
            step = self[step_id]
            # A lane that ends takes some of them elsewhere.
            break if step.is_a?(Steps::Fork) && !all_come_back?(step)

            step_id = following(step_id)
          end
          on
        end

        # @return [Array<Integer>] ids of the steps that whoever stands before one may come to, those that are certain among them
        def possibly(step_id)
          on = Set.new
          open = [step_id]
          while (id = open.pop)
            next unless on.add?(id)

            step = self[id]
            open << following(id) unless step.is_a?(Steps::Fork) && only_through_lanes?(step)
            open.concat(step.lanes.filter_map { |lane| lane.steps.first&.id }) if step.is_a?(Steps::Fork)
            open.compact!
          end
          on.to_a
        end

        # @return [Place] of somebody who joins
        def entrance(at) = Place.new(step_id: steps.first&.id, base: at)

        # @return [Place] when the step they stand before is done
        def after(place, at) = place.on(following(place.step_id), at)

        # @param lane [Steps::Lane, nil] nil: on behind the fork
        # @param because [Known::Event, nil] what took it; it takes no other lane
        # @return [Place]
        def into(place, lane, at, because = nil)
          on = onto(place.step_id, lane)
          because ? place.with(step_id: on, base: at, begun: nil, spent: place.spent + [because.id]) : place.on(on, at)
        end

        # @param lane [Steps::Lane, nil]
        # @return [Integer, nil] id of the step they come to through it; nil: none
        def onto(fork_id, lane)
          first = lane&.steps&.first
          return first.id if first

          following(fork_id) if lane.nil? || lane.comes_back
        end

        # @return [Array<Object>] conditions that may be asked of somebody at this place
        def asks(step_id)
          step = self[step_id]
          tests = step.is_a?(Steps::Fork) ? step.lanes.map(&:test).grep(Steps::Holds).map(&:condition) : [step&.only_for]
          [leave_if, *tests].compact
        end

        private

        # Whoever fits no lane goes on behind the fork.
        def all_come_back?(fork) =
          fork.lanes.all? { |lane| lane.comes_back && lane.steps.grep(Steps::Fork).all? { |one| all_come_back?(one) } }

        def only_through_lanes?(fork) =
          fork.lanes.any? { |lane| lane.test.nil? } && fork.lanes.none? { |lane| lane.comes_back && lane.steps.empty? }

        # @param after [Integer, nil] id of what comes behind the last of these steps
        # @param lane [Steps::Lane, nil] the steps are in
        def index(steps, after, lane)
          steps.each_with_index do |step, i|
            raise Invalid.new("Two steps of this plan are one.", code: :step_twice, at: "steps") if @by_id.key?(step.id)

            @by_id[step.id] = step
            @follows[step.id] = steps[i + 1]&.id || after
            @leads[step.id] = i.zero? ? lane : steps[i - 1].id
            next unless step.is_a?(Steps::Fork)

            step.lanes.each do |one|
              raise Invalid.new("Two lanes of this plan are one.", code: :step_twice, at: "steps") if @lanes.key?(one.id)

              @lanes[one.id], @forks[one.id] = one, step.id
              index(one.steps, (@follows[step.id] if one.comes_back), one)
            end
          end
        end
      end
    end
  end
end
