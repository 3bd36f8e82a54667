# frozen_string_literal: true

module NimbleLetter
  module Work
    # Where a letter is used, and whom a change of it would reach.
    module LetterUse
      # @return [Array<Hash>] sequences under way: id, name, had (letters out), will (letters still to go), held (whether its plan holds
      #   other words than are written now)
      def self.running(letter)
        under_way = Records::Sequence.under_way.order(:name).all
        ids = under_way.map(&:id)
        out = LetterCounts.of(Records::Delivery.where(letter_id: letter.id, sequence_id: ids), by: :sequence_id)
        due = to_come(letter, ids)
        under_way.select { |one| due.key?(one.id) || out[[one.id, "sent"]].positive? }
          .map { |one| {id: one.id, name: one.name, had: out[[one.id, "sent"]], will: due.fetch(one.id, 0), held: held?(one, letter)} }
      end

      def self.held?(sequence, letter) = Records::FrozenPlan.of(sequence.id)&.text_of(letter.id)&.other_than?(letter) || false
      private_class_method :held?

      # @param ids [Array<Integer>] of sequences
      # @return [Hash{Integer=>Integer}] letters still to go, by sequence
      def self.to_come(letter, ids)
        steps = Records::Step.sending([letter.id]).where(sequence_id: ids).eager(:sequence).all
        by_sequence = steps.group_by(&:sequence_id).transform_values { |some| some.sum { |step| who_gets(step, letter).size } }
        by_sequence.select { |_, letters| letters.positive? }
      end
      private_class_method :to_come

      # Of a step that compares two letters, those who are to get this one; with those whose letter is set aside, since it goes once its
      # gap is filled.
      # @return [Array<Integer>] people
      def self.who_gets(step, letter)
        set_aside = Records::Member.active.where(id: Records::Delivery.where(step_id: step.id).set_aside.select(:member_id))
        [Accounting.new(step.sequence).on_the_way(step), set_aside].flat_map { |members| of_letter(members, step, letter) }.uniq
      end

      # Likewise, those who may come to it by a lane.
      # @return [Array<Integer>] people
      def self.who_may_get(step, letter) = of_letter(Accounting.new(step.sequence).may_come(step), step, letter)

      def self.of_letter(members, step, letter)
        return members.select_map(:person_id) if step.letter_ids.uniq == [letter.id]

        members.all.select { |member| step.letter_of(member.version_of(step.id))&.id == letter.id }.map(&:person_id)
      end
      private_class_method :of_letter
    end
  end
end
