# frozen_string_literal: true

module NimbleLetter
  module Work
    # What one step of a plan still needs before it can start.
    class StepRemarks
      # @param step [Records::Step]
      # @param moment [Moment]
      def initialize(step, moment)
        @step, @moment = step, moment
      end

      # @return [Array<ReadyCheck::Remark>]
      def call
        return [block("date_past", "#{name} is for a day that is past.")] if past?
        return [block((@step.kind == "letter") ? "no_letter" : "half_made", "#{name}: #{missing}.")] if missing

        [*conditions, *send(:"#{@step.kind}_remarks")]
      end

      private

      def name = "Step #{@step.position + 1}"

      def past? = @step.kind != "fork" && @step.counted == "date" && @step.on_date < @moment.today

      def missing = @missing ||= Core::Journey::StepCheck.missing(@step.to_core)

      def letter_remarks
        [@step.letter, (@step.letter_of("b") if @step.other)].compact.uniq(&:id).flat_map { |letter| written(letter) }
      end

      def written(letter)
        other = @step.subject_of("b")
        if other && Core::Letters::Document.new(other, @moment.catalogue).empty?
          return [block("no_subject", "The other subject of “#{letter.name}” is empty.")]
        end

        LetterChecks
          .new(letter, @moment)
          .blocking
          .reject { |advice| advice.part == "firm" }
          .map { |advice| block(advice.code, "“#{letter.name}”: #{advice.words}") }
      end

      def task_remarks = []

      # Whatever it speaks of may have been retired since it was laid out.
      def change_remarks
        MakeChange.check(@step.settings["what"], @step.settings["to"], @step.sequence, @moment)
        []
      rescue Invalid, NotFound => error
        [block("change_gone", "#{name}: #{error.message}")]
      end

      def hand_over_remarks
        other = Records::Sequence[@step.settings["sequence_id"]]
        return [block("no_sequence", "The sequence that #{name.downcase} hands over to is gone.")] unless other
        return [] if other.under_way?

        [ReadyCheck::Remark.new(code: "not_running", step_id: @step.id, blocking: false,
          words: "#{name} hands over to “#{other.name}”, which is not running: as long as it is not, nobody is handed over.")]
      end

      def fork_remarks = []

      def conditions
        asked = [@step.settings&.[]("only_for"), *@step.lanes.map { |lane| lane.test&.[]("condition") }].compact
        asked.filter_map do |condition|
          @moment.parser.parse!(condition)
          nil
        rescue Invalid => error
          block("condition_gone", "#{name}: #{error.message}")
        end
      end

      def block(code, words) = ReadyCheck::Remark.new(code: code, words: words, blocking: true, step_id: @step.id)
    end
  end
end
