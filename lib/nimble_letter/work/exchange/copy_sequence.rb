# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes a draft that is laid out as another sequence is: the same letters, audience, sender, rules of joining and notes. Nobody is in
    # it.
    module CopySequence
      # @param sequence [Records::Sequence] in any state
      # @return [Records::Sequence]
      def self.call(sequence, moment:)
        Records.db.transaction do
          made = PlanSequence.make(name: "#{sequence.name}, copy"[0, 160], audience: nil, moment: moment)
          steps = StepInputs.anew(StepInputs.of(sequence))
          PlanSequence.change(made, {version: made.version, steps: steps, **kept(sequence)}, moment: moment)
          made.update(audience: sequence.audience, status_set_id: sequence.status_set_id)
          Records::JoinRule.where(sequence_id: sequence.id).order(:id).each { |rule| join(made, rule, moment) }
          Records::PlanNote.where(sequence_id: sequence.id, step_id: nil).order(:id).each do |note|
            NoteOnPlan.write(made, note.text, step_id: nil, moment: moment)
          end
          made.refresh
        end
      end

      def self.kept(sequence) = {sender: sequence.sender, leave_on: sequence.leave_on, leave_if: sequence.leave_if}
      private_class_method :kept

      # As it is, also one about what is gone: the copy says so where the other does.
      def self.join(made, rule, moment)
        Records::JoinRule.create(**rule.values.slice(:kind, :hears, :again, :gap_days, :live, :now_too), settings: rule.settings,
          sequence_id: made.id, account_id: moment.account&.id, created_at: moment.now, updated_at: moment.now)
      end
      private_class_method :join
    end
  end
end
