# frozen_string_literal: true

module NimbleLetter
  module Work
    # Writes, changes and takes away notes in the margin of a plan.
    module NoteOnPlan
      MOST = 2000

      # @param step_id [Integer, nil] nil: about the whole plan
      # @return [Records::PlanNote]
      # @raise [Invalid]
      def self.write(sequence, text, step_id:, moment:)
        unless step_id.nil? || Records::Step.where(id: step_id, sequence_id: sequence.id).any?
          raise Invalid.new("There is no such step in it.", at: "step_id")
        end

        Records::PlanNote.create(sequence_id: sequence.id, step_id: step_id, text: said(text), account_id: moment.account&.id,
          created_at: moment.now, updated_at: moment.now)
      end

      # @param version [Integer] as the person saw it
      # @return [Records::PlanNote]
      # @raise [Invalid, Conflict]
      def self.change(note, text, version:, moment:) = note.change!({text: said(text)}, version: version, now: moment.now)

      def self.said(text)
        text = text.to_s.strip
        raise Invalid.new("A note has 1 to #{MOST} letters.", at: "text") unless text.length.between?(1, MOST)

        text
      end
      private_class_method :said
    end
  end
end
