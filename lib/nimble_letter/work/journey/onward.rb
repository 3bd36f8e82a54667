# frozen_string_literal: true

require "set"

module NimbleLetter
  module Work
    # Carries out what the journey decides for members of one plan, until each of them waits for something, has finished or has
    # left. What must be known is read in a few statements for all of them, and what comes of it written in a few. Nothing is
    # written that is not certain: a letter that something may still keep back gets its delivery when it is due.
    #
    # Twice is the same as once: a member's place says what is behind them, and a delivery or task is one for a step and round.
    class Onward
      Decisions = Core::Journey::Decisions

      # A member on their way, with the place they have come to.
      Traveller = Struct.new(:member, :place)

      # @param plan [Core::Journey::Plan]
      # @param sequence_id [Integer]
      # @param moment [Moment]
      # @param people [Hash{Integer=>Records::Person}] those who have been read already
      # @param heard [Boolean] whether something happened that may take them out or into a lane
      # @param halted [Boolean] the sequence is paused: nothing is done, but lanes are taken and members leave
      def initialize(plan, sequence_id, moment, people: {}, heard: false, halted: false)
        @plan, @sequence_id, @moment, @people, @heard, @halted = plan, sequence_id, moment, people, heard, halted
        @written = MemberWrites.new(moment)
      end

      # @param members [Array<Records::Member>] active ones, locked
      # @param places [Hash{Integer=>Core::Journey::Place}] by member, where what was there is behind them
      # @param first [Hash{Integer=>Core::Journey::Decisions}] by member, what the journey has said of them already at this moment
      def call(members, places: {}, first: {})
        @first = first
        missing = members.map(&:person_id) - @people.keys
        @people = {**@people, **Knowing.people(missing, @plan)} if missing.any?
        open = members.map { |member| Traveller.new(member, places.fetch(member.id) { member.place }) }
        open = pass(open) until open.empty?
        @written.flush
        Ending.check(@sequence_id, at: @moment.now) if @finished
      end

      private

      # Everybody as far as what is known by now carries them.
      # @return [Array<Traveller>] those who have to be asked about again, knowing more
      def pass(travellers)
        travellers.each { |one| at(one) }
        known = known_of(travellers.map(&:member).reject { |member| @first.key?(member.id) })
        doing = []
        again = travellers.select { |one| walk(one, known[one.member.id], doing) }
        return again if doing.empty?

        # What is done may be what the next step asks about.
        @written.append_events
        again + Doing.new(@plan, @moment, @people, @written).call(doing).filter_map { |one, decision| done(one, decision) }
      end

      def known_of(members) = members.empty? ? {} : Knowing.new(@plan, @moment).of_members(members, @people, heard: @heard)

      # @param known [Core::Journey::Known, nil] nil as long as what comes first of them was said already
      # @return [Boolean] whether more has to be known
      def walk(traveller, known, doing)
        loop do
          decision = @first.delete(traveller.member.id) || @moment.machine.next(@plan, traveller.place, known, @moment.now)
          return stays(traveller, decision) if halted?(traveller) && [Decisions::Do, Decisions::Send].include?(decision.class)

          case decision
          when Decisions::Do
            doing << [traveller, decision]
            return false
          when Decisions::Take, Decisions::Skip, Decisions::Pass then passed(traveller, decision)
          else return stop(traveller, decision)
          end
          return true if known.nil? || @plan.asks(traveller.place.step_id).any?
        end
      end

      def halted?(traveller) = @halted || !traveller.member.paused_at.nil?

      # @return [Records::Member] standing at the place they have come to
      def at(traveller)
        member = traveller.member
        @written.member(member, Records::Member.columns_of(traveller.place))
        member
      end

      def passed(traveller, decision)
        @written.event(*told(traveller.member, decision))
        traveller.place = @plan.behind(decision, traveller.place, @moment.now)
      end

      # @return [Array] kind, member, step and what the event says
      def told(member, decision)
        because = decision.respond_to?(:because) ? decision.because&.id : nil
        case decision
        when Decisions::Take then ["lane_taken", member, decision.step, {lane: decision.lane&.id, because: because}]
        when Decisions::Pass then ["step_done", member, decision.step, {because: because}]
        else ["skipped", member, decision.step, {reason: decision.reason}]
        end
      end

      # @return [false]
      def stop(traveller, decision)
        member = at(traveller)
        case decision
        when Decisions::Finish then finish(member)
        when Decisions::Leave then leave(member, decision.reason)
        when Decisions::Send then letter(member, decision.step, decision.due.at)
        else wait(member, decision)
        end
        false
      end

      # As it is, to be asked about again when the sequence goes on.
      # @return [false]
      def stays(traveller, decision)
        return stop(traveller, decision) if decision.is_a?(Decisions::Send) && @plan.certain?(decision.step)

        @written.member(at(traveller), due_at: @moment.now, waits_for: "time")
        false
      end

      def wait(member, decision)
        step = decision.step
        if decision.for == :time && step.is_a?(Core::Journey::Steps::Letter) && @plan.certain?(step)
          letter(member, step, decision.until_at)
        else
          @written.member(member, due_at: [decision.until_at, @plan.ends_at].compact.min, waits_for: decision.for.to_s)
        end
      end

      def letter(member, step, at)
        @written.letter(member, step, at)
        # The letter goes by itself; only the end of the sequence may still come before it.
        @written.member(member, due_at: @plan.ends_at, waits_for: "time")
      end

      def finish(member)
        @written.member(member, state: "finished", due_at: nil, waits_for: nil)
        @written.event("finished", member)
        @finished = true
      end

      def leave(member, reason)
        @written.now(member)
        Leaving.call(member, reason, at: @moment.now)
      end

      # @return [Traveller, nil] nil when the member is out, or stays where they are
      def done(traveller, decision)
        return stays(traveller, nil) || nil unless decision

        step, place = @plan[traveller.place.step_id], traveller.place
        waits = step.is_a?(Core::Journey::Steps::Task) && step.waits
        traveller.place = waits ? place.with(begun: @moment.now) : @plan.after(place, @moment.now)
        return traveller unless decision.is_a?(Decisions::Leave)

        leave(at(traveller), decision.reason)
        nil
      end
    end
  end
end
