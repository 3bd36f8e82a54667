# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # A plan as it would go, under an assumption about people: the same machine as moves members, and the same room in mailboxes, in the
      # order of time. Nothing is written. Times are in seconds since 1970 throughout, and Times where others read them.
      class Rehearsal
        include Ahead
        include Together
        include Outgoing
        include InLine

        # Something that is done. person_id: for whom; box_id: from which they hear
        Doing = Struct.new(:person_id, :step, :seconds, :box_id) do
          # @return [Time]
          def at = Time.at(seconds).utc
          alias_method :wanted, :at

          def step_id = step.id

          # Nothing keeps it.
          def why = nil
        end
        # The way out of it. reason: of Journey::Decisions::Leave, or nil at its end
        Out = Struct.new(:person_id, :seconds, :reason) do
          # @return [Time]
          def at = Time.at(seconds).utc
        end
        # Whoever is still on the way then.
        HORIZON = 3 * 366 * 86_400
        # What takes longer than so many turns, some eight seconds, is nothing to wait for.
        MOST_TURNS = 2_000_000
        # So many who are put off together take as long as one turn.
        AS_A_TURN = 10

        # @return [Array<Letter>, Array<Doing>, Array<Out>] in the order of time
        attr_reader :letters, :doings, :outs

        # @param machine [Journey::Machine]
        # @param plan [Journey::Plan]
        # @param room [Sending::Room]
        # @param assumption [Assumption]
        # @param link [#call] a step's first link, for those who click
        # @param due [#call] when a colleague is done with a task that is made then
        # @param changed [#call] what is known of somebody when a step has changed their record; nil: as before
        def initialize(machine, plan, room, assumption, link: ->(_step) {}, due: ->(_step, at) { at }, changed: ->(_one, _step) {})
          @machine, @plan, @room, @assumption = Journey::Alike.new(machine), plan, room, assumption
          @due, @changed = due, changed
          @links = Hash.new { |links, step| links[step] = link.call(step) }.compare_by_identity
          @letters, @doings, @outs, @taken = [], [], [], 0
          # What decides nothing any more, wherever they come to, is not worth keeping in mind.
          @matters = Hash.new { |kinds, id| kinds[id] = plan.heeded_after(id) & assumption.possible }
          @lines, @crowds = {}, {}.compare_by_identity
        end

        # @param travellers [Array<Traveller>]
        # @param now [Time]
        # @return [self]
        def run(travellers, now)
          now = now.to_i
          @turns, @end = Turns.new(travellers), now + HORIZON
          travellers.each { |one| one.lately = @room.lately(one.id) }
          set_out(travellers, now)
          @turns.each do |one, with, at|
            too_long(at) if (@taken += 1) > MOST_TURNS
            case with&.kind
            when nil then turn(one, at)
            when :letters then called(with, one, at)
            when :steps then step(with, one, at)
            when :passing then pass_on(with)
            when :line then move_up(with, at)
            end
          end
          self
        end

        private

        def too_long(at)
          by = Time.at(at).utc.strftime("%-d %B %Y")
          raise Invalid.new("This would take longer than can be rehearsed: by #{by} much of it is still to come.", code: :too_long,
            hint: "Let the mailbox send more a day, or rehearse it with fewer people.")
        end

        # @param line [Line, nil] in which they are the first
        def wake(one, at, line = nil)
          @turns.call(one, at, line) if at <= @end
        end

        def turn(one, at)
          case one.decision
          when nil then alone(one, at)
          when Journey::Decisions::Send then letter(one, at)
          when Journey::Decisions::Leave then out(one, at, one.decision.reason)
          when Journey::Decisions::Finish then out(one, at)
          else on(one, one.decision, at)
          end
        end

        # @param decision [Journey::Decisions::Do, Journey::Decisions::Take, Journey::Decisions::Skip, Journey::Decisions::Pass]
        def on(one, decision, at)
          case decision
          when Journey::Decisions::Do then return out(one, at, "handed_over") if done(one, decision.step, at)
          when Journey::Decisions::Take then at = take(one, decision, at)
          else one.go(@plan.following(one.step_id), one.wanted)
          end
          ahead(one, at)
        end

        # @return [Boolean] whether that takes them elsewhere; another sequence is taken to run, and to take them
        def done(one, step, at)
          does(one, step, at)
          return true if step.is_a?(Journey::Steps::HandOver) && !step.stays

          if step.is_a?(Journey::Steps::Task) && step.waits
            one.place = one.place.with(begun: Time.at(at).utc)
          else
            one.go(@plan.following(step.id), at)
          end
          false
        end

        def does(one, step, at)
          @doings << Doing.new(one.id, step, at, one.box.id)
          # Whether or not the sequence waits for it: a lane further on may ask.
          one.expect([@assumption.done(step, @due.call(step, Time.at(at).utc).to_i)]) if step.is_a?(Journey::Steps::Task)
          return unless step.is_a?(Journey::Steps::Change)

          known = @changed.call(one, step)
          one.known = known if known
        end

        # @return [Integer] when they go on
        def take(one, decision, at)
          if decision.because
            one.hear(at)
            one.place = @plan.into(one.place, decision.lane, decision.at, decision.because)
          else
            one.go(@plan.onto(one.step_id, decision.lane), one.wanted)
          end
          [at, one.wanted].max
        end

        def out(one, at, reason = nil)
          out = Out.new(one.id, at, reason)
          return @outs << out if @outs.empty? || @outs.last.seconds <= at

          # Somebody who left a line unseen, or before the others of a crowd.
          @outs.insert(@outs.bsearch_index { |other| other.seconds > at }, out)
        end
      end
    end
  end
end
