# frozen_string_literal: true

module NimbleLetter
  module Work
    # What lies ahead of members, reckoned from where they stand: the letter that is written down at its time, and those behind it.
    class Ahead
      # @param sequence [Records::Sequence]
      # @param upto [Time, nil] nothing after it is reckoned
      # @param of [Symbol] :letters, or :steps for what is done as well
      def initialize(sequence, moment, upto: nil, of: :letters)
        @sequence, @moment, @upto, @of = sequence, moment, upto, of
      end

      # A letter of these is still to go, or waits for somebody to decide.
      OPEN = [*Records::Delivery::STILL_DUE, "in_doubt", "failed"].freeze

      # @param members [Array<Records::Member>] active ones
      # @param people [Hash{Integer=>Records::Person}]
      # @return [Hash{Integer=>Hash{Integer=>Time}}] by member, the time of each letter ahead by step
      def call(members, people)
        letters = letters(members)
        members.group_by(&:plan).flat_map { |number, some| ahead(@moment.plan_of(@sequence.id, number), some, people, letters) }.to_h
      end

      # As #call, for copies of members who have been moved into another plan.
      # @param plan [Core::Journey::Plan]
      # @param places [Hash{Integer=>Core::Journey::Place}] by member
      # @param letters [Hash{Integer=>Array}] by member, the letters that stay as they are, see #letters
      # @return [Hash{Integer=>Hash{Integer=>Time}}]
      def moved(plan, members, people, places, letters)
        known = known(plan, members, people, heard: true)
        members.to_h { |member| [member.id, of(plan, member, places[member.id], known[member.id], letters[member.id])] }
      end

      # @return [Hash{Integer=>Array(Integer, String, Time)}] by member, step, state and time of the letter of the step they stand before
      def letters(members)
        steps = members.to_h { |member| [member.id, member.step_id] }
        rows = Records::Delivery.where(member_id: steps.keys, state: OPEN).select_map(%i[member_id step_id state due_at])
        rows.each_with_object({}) { |(id, *letter), found| found[id] = letter if letter.first == steps[id] }
      end

      private

      def ahead(plan, members, people, letters)
        known = known(plan, members, people)
        members.map { |member| [member.id, of(plan, member, member.place, known[member.id], letters[member.id])] }
      end

      # A letter that is not certain to have left counts as one they had: nobody gets it twice.
      def known(plan, members, people, heard: false)
        known = Knowing.new(plan, @moment).of_members(members, people, all: true, heard: heard)
        steps = members.to_h { |member| [member.id, member.step_id] }
        doubtful = Records::Delivery.where(member_id: steps.keys, state: Transfer::UNDER_WAY).select_map(%i[member_id step_id])
        doubtful = doubtful.reject { |id, step_id| steps[id] == step_id }
        known.merge(doubtful.to_h { |id, step_id| [id, known[id].plus(had: known[id].had + [step_id])] })
      end

      # @param letter [Array(Integer, String, Time), nil]
      # @return [Hash{Integer=>Time}] by step
      def of(plan, member, place, known, letter)
        return times(plan, member, known, place, [place.base, @moment.now].max) unless letter

        _, state, due_at = letter
        return goes(plan, member, known, place, due_at, @moment.now) if Records::Delivery::STILL_DUE.include?(state)

        # One that waits for somebody to decide goes on from now at the soonest.
        times(plan, member, known, plan.after(place, @moment.now), @moment.now)
      end

      # The letter they stand before, as it was due, and what comes behind it. One that missed its time waits for its window again
      # (Post::Admission), unless it is too late by then (Lapse).
      # @param now [Time] when they come to it, at the earliest
      def goes(plan, member, known, place, due_at, now)
        step, at = plan[place.step_id], due_at
        at = @moment.machine.opening(step, place, known, now, hours(member.mailbox_id)).at if missed?(due_at, now)
        return times(plan, member, known, plan.after(place, place.base), at) if lapses?(plan, step, place, known, [at, now].max)

        {step.id => at, **times(plan, member, known, plan.after(place, at), [at, now].max)}
      end

      def missed?(due_at, now) = now - due_at > Core::Sending::Room::LATE_SECONDS

      def lapses?(plan, step, place, known, at)
        return false unless step.not_after

        decision = @moment.machine.next(plan, place, known, at)
        decision.is_a?(Core::Journey::Decisions::Skip) && decision.reason == :too_late
      end

      def hours(mailbox_id)
        @hours ||= Hash.new { |all, id| all[id] = Records::Mailbox[id]&.to_core&.hours(@moment.firm.zone) }
        @hours[mailbox_id]
      end

      def times(plan, member, known, place, now)
        steps = @moment.ways(plan).public_send(@of, known, place, now, upto: @upto)
        overdue = steps.index { |step, at| step.is_a?(Core::Journey::Steps::Letter) && missed?(at, now) }
        return steps.to_h { |step, at| [step.id, at] } unless overdue

        # Only the first letter can be.
        sends = Core::Journey::Path.new(@moment.machine, plan, known).ahead(place, now).find do |point|
          point.decision.is_a?(Core::Journey::Decisions::Send)
        end
        before = steps.first(overdue).to_h { |step, at| [step.id, at] }
        {**before, **goes(plan, member, known, sends.place, sends.decision.due.at, sends.at)}
      end
    end
  end
end
