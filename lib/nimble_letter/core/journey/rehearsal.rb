# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # A plan as it would go, under an assumption about people: the same machine as moves members, and the same room in mailboxes, in the
      # order of time. Nothing is written. Times are in seconds since 1970 throughout, and Times where others read them.
      class Rehearsal
        # A letter that goes. seconds: when; due: when it was to go; why: what kept it until then, see Sending::Room
        Letter = Struct.new(:person_id, :step_id, :box_id, :seconds, :due, :why) do
          # @return [Time]
          def at = Time.at(seconds).utc

          # @return [Time]
          def wanted = Time.at(due).utc
        end
        # Something that is done. person_id: for whom; box_id: from which they hear
        Doing = Struct.new(:person_id, :step, :seconds, :box_id) do
          # @return [Time]
          def at = Time.at(seconds).utc
          alias_method :wanted, :at

          def step_id = step.id

          # Nothing keeps it.
          def why = nil
        end
        # The way out of it. reason: of Decisions::Leave, or nil at its end
        Out = Struct.new(:person_id, :at, :reason)
        # Whoever is still on the way then.
        HORIZON = 3 * 366 * 86_400
        # What takes longer than so many turns is nothing to wait for: each waiting letter of a full mailbox takes one a day.
        MOST_TURNS = 1_000_000
        DAY = 86_400

        # @return [Array<Letter>, Array<Doing>, Array<Out>] in the order of time
        attr_reader :letters, :doings, :outs

        # @param machine [Machine]
        # @param plan [Plan]
        # @param room [Sending::Room]
        # @param assumption [Assumption]
        # @param link [#call] a step's first link, for those who click
        # @param due [#call] when a colleague is done with a task that is made then
        # @param changed [#call] what is known of somebody when a step has changed their record; nil: as before
        def initialize(machine, plan, room, assumption, link: ->(_step) {}, due: ->(_step, at) { at }, changed: ->(_one, _step) {})
          @machine, @plan, @room, @assumption, @due, @changed = Alike.new(machine), plan, room, assumption, due, changed
          @links = Hash.new { |links, step| links[step] = link.call(step) }.compare_by_identity
          @letters, @doings, @outs, @turns = [], [], [], 0
          @days = Hash.new { |days, day| days[day] = [] }
          # What decides nothing any more, wherever they come to, is not worth keeping in mind.
          @matters = Hash.new { |kinds, id| kinds[id] = plan.heeded_after(id) }
          @lines = {}
        end

        # @param travellers [Array<Traveller>]
        # @param now [Time]
        # @return [self]
        def run(travellers, now)
          @now = now.to_i
          @end, @today = @now + HORIZON, day(@now)
          travellers.each { |one| ahead(one, @now) }
          until @days.empty?
            @today = @days.each_key.min
            play(@days.delete(@today))
          end
          self
        end

        private

        def day(at) = at / DAY

        # Of one day, in the order of time; who has heard from us before others at the same time. Whoever is woken once more that day
        # stands in @soon, the last one first.
        def play(waiting)
          waiting.sort_by!(&:turn)
          @soon, i = [], 0
          while (one = waiting[i] || @soon.last)
            other = @soon.last
            (other && (!waiting[i] || other.turn < one.turn)) ? one = @soon.pop : i += 1
            too_long if (@turns += 1) > MOST_TURNS
            one.is_a?(Line) ? move_up(one) : turn(one, one.at)
          end
          @soon = nil
        end

        def too_long
          by = Time.at(@today * DAY).utc.strftime("%-d %B %Y")
          raise Invalid.new("This would take longer than can be rehearsed: by #{by} much of it is still to come.", code: :too_long,
            hint: "Let the mailbox send more a day, or rehearse it with fewer people.")
        end

        # @param one [Traveller, Line]
        def wake(one, at)
          return if at > @end

          one.wake(at)
          day = day(at)
          return @days[day] << one unless @soon && day <= @today

          @soon.insert(@soon.bsearch_index { |other| other.turn <= one.turn } || @soon.size, one)
        end

        # What the journey decides next, and when; or what is assumed to happen before that.
        def ahead(one, now)
          return out(one, now) if @plan.over?(one.step_id, one.heard)

          stand = one.stand(@machine, @plan)
          leg = stand&.leg(one.base)
          at = leg&.at(one.seed)
          return decided(one, leg.decision, at, at) if at && at >= now

          alone(one, now)
        end

        def alone(one, now)
          one.hear(now)
          decision, at = @machine.soonest(@plan, one.place, one.known, Time.at(now).utc)
          waits = decision.is_a?(Decisions::Wait)
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
          decided(one, decision, Decisions.at(decision).to_i, (at > now) ? at : now)
        end

        def decided(one, decision, due, at)
          one.decide(decision, due)
          wake(one, at)
        end

        # @return [Known::Event, nil] the first to come that decides anything at the step they stand before
        def heeded(one)
          one.pending.find { |event| @plan.heeds?(one.step_id, event.kind) } unless one.pending.empty?
        end

        # Somebody looks as soon as it is time to.
        def nod(one, decision, now)
          one.known = one.known.plus(nods: one.known.nods + [decision.step.id])
          ahead(one, now)
        end

        def turn(one, at)
          case one.decision
          when nil then alone(one, at)
          when Decisions::Send then letter(one, at)
          when Decisions::Leave then out(one, at, one.decision.reason)
          when Decisions::Finish then out(one, at)
          else on(one, one.decision, at)
          end
        end

        def letter(one, at)
          step = one.decision.step
          return lapses(one, at) if step.not_after && too_late?(one, at)

          again = missed(one, at) and return put_off(one, one.due = again)

          kept = @room.keeps(one.box, one.id, at)
          return later(one, at, kept) if kept

          @room.take(one.box, one.id, at)
          @letters << Letter.new(one.id, step.id, one.box.id, at, one.wanted, one.why)
          one.had_letter = true
          reacts(one, step, at) unless @assumption.silent?
          one.go(@plan.following(step.id), at)
          ahead(one, at)
        end

        def reacts(one, step, at)
          reactions = @assumption.reactions(one.id, step, Time.at(at).utc, @links[step], @matters[step.id])
          one.expect(reactions) unless reactions.empty?
        end

        # A letter that was held up until it may not go any more.
        def too_late?(one, at)
          return false unless at > one.wanted

          decision = @machine.next(@plan, one.place, one.known, Time.at(at).utc)
          decision.is_a?(Decisions::Skip) && decision.reason == :too_late
        end

        # The step counts from where the one before did, as one that was passed by on the way.
        def lapses(one, at)
          one.go(@plan.following(one.step_id), one.base)
          ahead(one, at)
        end

        # @return [Integer, nil] when it may go after all, if it has missed its window
        def missed(one, at)
          return if at - one.due <= Sending::Room::LATE_SECONDS

          opening = opening(one, at)
          opening if opening > at
        end

        # What keeps the mailbox has it wait in line; what keeps this letter puts it off to the next opening of its window.
        # @param kept [Symbol] of Sending::Room
        def later(one, at, kept)
          one.why = kept
          return wait(one, at) unless Sending::Room::OWN.include?(kept)

          opens, one.why = @room.earliest(one.box, one.id, at)
          put_off(one, one.due = opening(one, opens))
        end

        def opening(one, from)
          # A mailbox that is full or opens puts off many to the same instant.
          stand = one.stand(@machine, @plan) if one.why && one.why != :guard
          return @machine.opening_of_many(stand, one.decision.step, one, from, @room.hours_of(one.box)) if stand

          opening_alone(one, from)
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

        def wait(one, at)
          line = @lines[[one.box.id, one.had_letter]] ||= Line.new(one.box, one.had_letter)
          wake(line, @room.next_in_line(one.box, at)) if line.empty?
          line << one
        end

        # The turn of those who wait for a mailbox: the first goes, or is found to have left while it waited.
        def move_up(line)
          at = line.at
          opens = @room.next_in_line(line.box, at)
          return wake(line, opens) if opens > at

          one = line.shift
          heard = heeded(one)
          (heard && heard.at.to_i <= at) ? alone(one, heard.at.to_i) : turn(one, at)
          wake(line, at) unless line.empty?
        end

        def does(one, step, at)
          @doings << Doing.new(one.id, step, at, one.box.id)
          # Whether or not the sequence waits for it: a lane further on may ask.
          one.expect([@assumption.done(step, @due.call(step, Time.at(at).utc))]) if step.is_a?(Steps::Task)
          return unless step.is_a?(Steps::Change)

          known = @changed.call(one, step)
          one.known = known if known
        end

        # @param decision [Decisions::Do, Decisions::Take, Decisions::Skip, Decisions::Pass]
        def on(one, decision, at)
          case decision
          when Decisions::Do then return out(one, at, "handed_over") if done(one, decision.step, at)
          when Decisions::Take then at = take(one, decision, at)
          else one.go(@plan.following(one.step_id), one.wanted)
          end
          ahead(one, at)
        end

        # @return [Boolean] whether that takes them elsewhere; another sequence is taken to run, and to take them
        def done(one, step, at)
          does(one, step, at)
          return true if step.is_a?(Steps::HandOver) && !step.stays

          if step.is_a?(Steps::Task) && step.waits
            one.place = one.place.with(begun: Time.at(at).utc)
          else
            one.go(@plan.following(step.id), at)
          end
          false
        end

        # @return [Integer] when they go on
        def take(one, decision, at)
          if decision.because
            one.place = @plan.into(one.place, decision.lane, decision.at, decision.because)
          else
            one.go(@plan.onto(one.step_id, decision.lane), one.wanted)
          end
          [at, one.wanted].max
        end

        def out(one, at, reason = nil)
          out = Out.new(one.id, Time.at(at).utc, reason)
          return @outs << out if @outs.empty? || @outs.last.at <= out.at

          # Somebody who left a line unseen.
          @outs.insert(@outs.bsearch_index { |other| other.at > out.at }, out)
        end
      end
    end
  end
end
