# frozen_string_literal: true

module NimbleLetter
  module Work
    # What lies ahead of members, reckoned from where they stand: the letter that is written down at its time, and those behind it.
    class Ahead
      # @param sequence [Records::Sequence]
      # @param upto [Time, nil] nothing after it is reckoned
      def initialize(sequence, moment, upto: nil)
        @moment, @plan, @upto = moment, moment.plan_of(sequence.id), upto
      end

      # @param members [Array<Records::Member>] active ones
      # @param people [Hash{Integer=>Records::Person}]
      # @return [Hash{Integer=>Hash{Integer=>Time}}] by member, the time of each letter ahead by step
      def call(members, people)
        written = Records::Delivery.where(member_id: members.map(&:id)).select_hash_groups(:member_id, [:step_id, :state, :due_at])
        @known = @moment.known_of(members.map { |member| people[member.person_id] }.uniq, @plan)
        members.to_h do |member|
          letter = written.fetch(member.id, []).find { |step_id, _, _| step_id == member.step_id }
          [member.id, of(member, letter)]
        end
      end

      private

      # @param letter [Array(Integer, String, Time), nil] step, state and time of the one that is written down
      # @return [Hash{Integer=>Time}] by step
      def of(member, letter)
        known = @known[member.person_id]
        return times(known, member.place, [member.base, @moment.now].max) unless letter

        step_id, state, due_at = letter
        # One that waits for somebody to decide goes on from now at the soonest.
        still_due = Records::Delivery::STILL_DUE.include?(state)
        at = still_due ? due_at : @moment.now
        rest = times(known, @plan.after(member.place, at), at)
        still_due ? {step_id => due_at, **rest} : rest
      end

      def times(known, place, now) =
        Core::Journey::Path.new(@moment.machine, @plan, known).letters(place, now, upto: @upto).to_h { |step, at| [step.id, at] }
    end
  end
end
