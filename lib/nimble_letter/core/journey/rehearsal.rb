# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # A plan as it would go, under an assumption about people: the same machine as moves members, and the same room in mailboxes, in the
      # order of time. Nothing is written.
      class Rehearsal
        # Somebody on their way. box: of Sending::Room; place: where they stand; known: what has happened. The rest is the rehearsal's:
        # pending: what is assumed and has not come yet; decision: what is next; wanted: when it was due; due: since it was put off;
        # at, turn: when it is their turn, and by what that is put in order.
        Traveller = Struct.new(:id, :box, :place, :known, :had_letter, :pending, :decision, :wanted, :due, :why, :at, :turn) do
          def initialize(*)
            super
            self.pending ||= []
          end
        end
        # A letter that goes. wanted: when it was due; why: what kept it until `at`, see Sending::Room
        Letter = Struct.new(:person_id, :step_id, :box_id, :at, :wanted, :why)
        # Something that is done. person_id: for whom; box_id: from which they hear
        Doing = Struct.new(:person_id, :step, :at, :box_id)
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
          @machine, @plan, @room, @assumption, @link, @due, @changed = Alike.new(machine), plan, room, assumption, link, due, changed
          @letters, @doings, @outs, @turns = [], [], [], 0
          @days = Hash.new { |days, day| days[day] = [] }
        end

        # @param travellers [Array<Traveller>]
        # @param now [Time]
        # @return [self]
        def run(travellers, now)
          @now, @end = now.to_i, now + HORIZON
          @today = day(now)
          travellers.each { |one| ahead(one, now) }
          until @days.empty?
            @today = @days.each_key.min
            play(@days.delete(@today))
          end
          self
        end

        private

        def day(at) = at.to_i / DAY

        # Of one day, in the order of time; who has heard from us before others at the same time. Whoever is woken once more that day
        # stands in @soon, the last one first.
        def play(waiting)
          waiting.sort_by!(&:turn)
          @soon, i = [], 0
          while (traveller = first_of(waiting[i], @soon.last))
            traveller.equal?(waiting[i]) ? i += 1 : @soon.pop
            too_long if (@turns += 1) > MOST_TURNS
            turn(traveller, traveller.at)
          end
          @soon = nil
        end

        def first_of(one, other)
          return one || other unless one && other

          (other.turn < one.turn) ? other : one
        end

        def too_long
          by = Time.at(@today * DAY).utc.strftime("%-d %B %Y")
          raise Invalid.new("This would take longer than can be rehearsed: by #{by} much of it is still to come.", code: :too_long,
            hint: "Let the mailbox send more a day, or rehearse it with fewer people.")
        end

        def wake(traveller, at)
          return if at > @end

          traveller.at, traveller.turn = at, at.to_i * 2 + (traveller.had_letter ? 0 : 1)
          day = day(at)
          return @days[day] << traveller unless @soon && day <= @today

          @soon.insert(@soon.bsearch_index { |other| other.turn <= traveller.turn } || @soon.size, traveller)
        end

        # What the journey decides next, and when; or what is assumed to happen before that.
        def ahead(traveller, now)
          hears(traveller, now)
          decision, at = @machine.soonest(@plan, traveller.place, traveller.known, now)
          waits = decision.is_a?(Decisions::Wait)
          return nod(traveller, decision, now) if waits && decision.for == :nod

          heard = heeded(traveller)
          if heard && (waits || heard.at < at)
            traveller.decision = nil
            return wake(traveller, heard.at)
          end
          # Nothing comes any more.
          return if waits

          # What is long due has missed its time already.
          due = decision.is_a?(Decisions::Send) ? decision.due.at : at
          traveller.decision, traveller.wanted, traveller.due, traveller.why = decision, due, due, nil
          wake(traveller, (at > now) ? at : now)
        end

        # What has come by now.
        def hears(traveller, now)
          pending = traveller.pending
          return if pending.empty? || pending.first.at > now

          came, traveller.pending = pending.partition { |event| event.at <= now }
          traveller.known = traveller.known.plus(*came)
        end

        # @return [Known::Event, nil] the first to come that decides anything at the step they stand before
        def heeded(traveller)
          traveller.pending.find { |event| @plan.heeds?(traveller.place.step_id, event.kind) } unless traveller.pending.empty?
        end

        # Somebody looks as soon as it is time to.
        def nod(traveller, decision, now)
          traveller.known = traveller.known.plus(nods: traveller.known.nods + [decision.step.id])
          ahead(traveller, now)
        end

        def turn(traveller, at)
          return ahead(traveller, at) unless traveller.decision

          case traveller.decision
          when Decisions::Send then letter(traveller, at)
          when Decisions::Leave then @outs << Out.new(traveller.id, at, traveller.decision.reason)
          when Decisions::Finish then @outs << Out.new(traveller.id, at, nil)
          else on(traveller, at)
          end
        end

        def letter(traveller, at)
          return lapses(traveller, at) if too_late?(traveller, at)

          again = missed(traveller, at) and return put_off(traveller, traveller.due = again)

          return later(traveller, at) if @room.keeps(traveller.box, traveller.id, at)

          step = traveller.decision.step
          @room.take(traveller.box, traveller.id, at)
          @letters << Letter.new(traveller.id, step.id, traveller.box.id, at, traveller.wanted, traveller.why)
          traveller.had_letter = true
          reactions = @assumption.reactions(traveller.id, step, at, @link.call(step))
          assume(traveller, reactions) if reactions.any?
          traveller.place = @plan.after(traveller.place, at)
          ahead(traveller, at)
        end

        # A letter that was held up until it may not go any more.
        def too_late?(traveller, at)
          return false unless traveller.decision.step.not_after && at > traveller.wanted

          decision = @machine.next(@plan, traveller.place, traveller.known, at)
          decision.is_a?(Decisions::Skip) && decision.reason == :too_late
        end

        # The step counts from where the one before did, as one that was passed by on the way.
        def lapses(traveller, at)
          traveller.place = @plan.after(traveller.place, traveller.place.base)
          ahead(traveller, at)
        end

        # @return [Time, nil] when it may go after all, if it has missed its window
        def missed(traveller, at)
          return if at == traveller.due || at - traveller.due <= Sending::Room::LATE_SECONDS

          opening = opening(traveller, at)
          opening if opening > at
        end

        # What keeps the mailbox has it wait in line; what keeps this letter puts it off to the next opening of its window.
        def later(traveller, at)
          slot = @room.slot(traveller.box, traveller.id, at)
          traveller.why = slot.why
          return put_off(traveller, slot.at) if %i[pace hours].include?(slot.why)

          put_off(traveller, traveller.due = opening(traveller, slot.at))
        end

        # What takes somebody out while their letter waits comes first.
        def put_off(traveller, at)
          heard = heeded(traveller)
          return wake(traveller, at) unless heard && heard.at < at

          traveller.decision = nil
          wake(traveller, heard.at)
        end

        def opening(traveller, at) =
          @machine.opening(traveller.decision.step, traveller.place, traveller.known, at).at

        # The other sequence is taken to run, and to take them.
        def handed_over?(step) = step.is_a?(Steps::HandOver) && !step.stays

        def assume(traveller, events)
          traveller.pending = (traveller.pending + events).sort_by(&:at)
        end

        def does(traveller, step, at)
          @doings << Doing.new(traveller.id, step, at, traveller.box.id)
          # Whether or not the sequence waits for it: a lane further on may ask.
          assume(traveller, [@assumption.done(step, @due.call(step, at))]) if step.is_a?(Steps::Task)
          traveller.known = @changed.call(traveller, step) || traveller.known if step.is_a?(Steps::Change)
        end

        def on(traveller, at)
          decision = traveller.decision
          does(traveller, decision.step, at) if decision.is_a?(Decisions::Do)
          now = decision.is_a?(Decisions::Take) ? [at, decision.at].max : at
          if decision.is_a?(Decisions::Do) && decision.step.is_a?(Steps::Task) && decision.step.waits
            traveller.place = traveller.place.with(begun: at)
          elsif decision.is_a?(Decisions::Do) && handed_over?(decision.step)
            return @outs << Out.new(traveller.id, at, "handed_over")
          else
            traveller.place = @plan.behind(decision, traveller.place, now)
          end
          ahead(traveller, now)
        end
      end
    end
  end
end
