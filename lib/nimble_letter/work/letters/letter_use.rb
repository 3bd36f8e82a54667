# frozen_string_literal: true

module NimbleLetter
  module Work
    # Where a letter is used, and whom a change of it would reach.
    module LetterUse
      # @return [Array<Hash>] sequences under way: id, name, had (letters out), will (letters still to go), held (whether its plan holds
      #   other words than are written now)
      def self.running(letter)
        deliveries = Records::Delivery.where(letter_id: letter.id)
        sent = deliveries.where(state: "sent").group_and_count(:sequence_id).as_hash(:sequence_id, :count)
        due = to_come(letter)
        Records::Sequence
          .under_way
          .where(id: (sent.keys + due.keys).uniq)
          .order(:name)
          .all
          .map { |one| {id: one.id, name: one.name, had: sent.fetch(one.id, 0), will: due.fetch(one.id, 0), held: held?(one, letter)} }
      end

      def self.held?(sequence, letter) = Records::FrozenPlan.of(sequence.id)&.text_of(letter.id)&.other_than?(letter) || false
      private_class_method :held?

      # @return [Hash{Integer=>Integer}] letters still to go, by sequence
      def self.to_come(letter)
        started = Records::Step.sending([letter.id]).eager(:sequence).all.reject { |step| step.sequence.draft? }
        by_sequence = started.group_by(&:sequence_id).transform_values { |steps| steps.sum { |step| who_gets(step, letter).size } }
        by_sequence.select { |_, letters| letters.positive? }
      end
      private_class_method :to_come

      # Of a step that compares two letters, those who are to get this one.
      # @return [Array<Integer>] people
      def self.who_gets(step, letter)
        members = Accounting.new(step.sequence).on_the_way(step)
        return members.select_map(:person_id) if step.letter_ids.uniq == [letter.id]

        members.all.select { |member| step.letter_of(member.version_of(step.id))&.id == letter.id }.map(&:person_id)
      end
    end
  end
end
