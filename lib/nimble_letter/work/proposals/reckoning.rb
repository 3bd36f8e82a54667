# frozen_string_literal: true

require "set"

module NimbleLetter
  module Work
    # What a change of plan would mean for those who are on the way, if they do nothing: a copy of each member is moved into the proposed
    # plan by the code that moves members (Transfer), and the journey says what lies ahead of it there and in the plan they carry.
    class Reckoning
      Difference = Core::Journey::Difference
      KINDS = Difference::KINDS
      SLICE = 1000

      # What it means for one member. before, after: the time of each step ahead, by step; nil where they need not be walked
      One = Struct.new(:person_id, :kind, :before, :after)

      # @param sequence [Records::Sequence]
      # @param plan [Core::Journey::Plan] as it would be
      # @param reworded [Set<Integer>] people who will or may get a letter in new words
      # @param only_later [Boolean] whether inserted steps are only for people who arrive later
      def initialize(sequence, plan, moment, reworded: Set.new, only_later: false)
        @sequence, @plan, @moment, @reworded = sequence, plan, moment, reworded
        @transfer = Transfer.new(sequence.id, plan, moment, only_later: only_later)
        @ahead = Ahead.new(sequence, moment, of: :steps)
      end

      # @return [Hash{String=>Integer}] people by KINDS
      def counts = KINDS.to_h { |kind| [kind, people.fetch(kind, []).size] }

      # @return [Hash{String=>Array<Integer>}] numbers of people
      def people = @people ||= members.values.group_by(&:kind).transform_values { |some| some.map(&:person_id) }

      # @return [Hash{Integer=>One}] by member
      def members
        @members ||= begin
          ids = @sequence.members_dataset.active.order(:id).select_map(:id)
          ids.each_slice(SLICE).flat_map { |some| judged(Records::Member.where(id: some).order(:id).all) }.to_h
        end
      end

      private

      def judged(members)
        letters = @ahead.letters(members)
        waiting = Transfer.waiting_for_somebody(members.map(&:id))
        leaving = letters.select { |_, (_, state, _)| Transfer::UNDER_WAY.include?(state) }.keys.to_set
        places = members.to_h do |member|
          next [member.id, @transfer.place_behind_letter(member, @moment.now)] if leaving.include?(member.id)

          [member.id, @transfer.place(member, at_work: waiting.include?(member.id))]
        end
        same, others = members.partition { |member| same_ahead?(member, places[member.id]) }
        same.map { |member| [member.id, One.new(member.person_id, reworded?(member) ? "other_words" : "untouched")] } +
          walked(others, places, letters, waiting | leaving)
      end

      # Nobody need be walked through two plans that are one from where they stand on.
      def same_ahead?(member, place)
        return false unless member.step_id && place.step_id == member.step_id

        known = (@same_ahead ||= {})
        known.fetch([member.plan, member.step_id]) { |key| known[key] = @transfer.same_ahead?(*key) }
      end

      def walked(members, places, letters, at_work)
        people = Records::Person.where(id: members.map(&:person_id)).as_hash(:id)
        before = @ahead.call(members, people)
        kept = @transfer.kept(members, places)
        staying = letters.select { |id, _| kept.key?(id) || (at_work.include?(id) && places[id].step_id == letters[id].first) }
        after = @ahead.moved(@plan, members, people, places, staying)
        members.map { |member| [member.id, one(member, *[before, after].map { |ahead| from_now_on(ahead.fetch(member.id)) })] }
      end

      def reworded?(member) = @reworded.include?(member.person_id)

      # What is overdue comes now.
      def from_now_on(steps) = steps.transform_values { |at| [at, @moment.now].max }

      def one(member, before, after)
        old = @moment.plan_of(@sequence.id, member.plan)
        kind = "lane_gone" if Difference.lane_gone?(old, @plan, member.step_id)
        kind ||= Difference.between(before, after, reworded: reworded?(member))
        One.new(member.person_id, kind, before, after)
      end
    end
  end
end
