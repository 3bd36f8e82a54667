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

      # @param members [Array<Records::Member>] active ones
      # @param people [Hash{Integer=>Records::Person}]
      # @return [Hash{Integer=>Hash{Integer=>Time}}] by member, the time of each letter ahead by step
      def call(members, people)
        written = Records::Delivery.where(member_id: members.map(&:id)).select_hash_groups(:member_id, [:step_id, :state, :due_at])
        members.group_by(&:plan).flat_map { |number, some| ahead(@moment.plan_of(@sequence.id, number), some, people, written) }.to_h
      end

      private

      def ahead(plan, members, people, written)
        known = Knowing.new(plan, @moment).of_members(members, people, all: true)
        members.map do |member|
          letter = written.fetch(member.id, []).find { |step_id, _, _| step_id == member.step_id }
          [member.id, of(plan, member, known[member.id], letter)]
        end
      end

      # @param letter [Array(Integer, String, Time), nil] step, state and time of the one that is written down
      # @return [Hash{Integer=>Time}] by step
      def of(plan, member, known, letter)
        return times(plan, known, member.place, [member.base, @moment.now].max) unless letter

        step_id, state, due_at = letter
        # One that waits for somebody to decide goes on from now at the soonest.
        still_due = Records::Delivery::STILL_DUE.include?(state)
        at = still_due ? due_at : @moment.now
        rest = times(plan, known, plan.after(member.place, at), at)
        still_due ? {step_id => due_at, **rest} : rest
      end

      def times(plan, known, place, now) =
        @moment.ways(plan).public_send(@of, known, place, now, upto: @upto).to_h { |step, at| [step.id, at] }
    end
  end
end
