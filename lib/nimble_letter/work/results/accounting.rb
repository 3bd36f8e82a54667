# frozen_string_literal: true

module NimbleLetter
  module Work
    # Where everybody stands with each step of a sequence. Always, for each step: planned = sent + failed + skipped + in doubt + due.
    # Only a member's next letter is written down; who is on the way to a later step is read from where they stand.
    class Accounting
      FIGURES = %w[planned sent failed skipped in_doubt due].freeze
      STATES = {"sent" => %w[sent], "failed" => %w[failed], "in_doubt" => %w[in_doubt], "open" => Records::Delivery::STILL_DUE}.freeze

      def initialize(sequence) = @sequence = sequence

      # @param step [Records::Step]
      # @return [Hash{String=>Integer}] FIGURES, and "here": who stands before it now
      def of(step)
        counts = STATES.transform_values { |states| states.sum { |state| letters.fetch([step.id, state], 0) } }
        open = counts.delete("open")
        counts["planned"] = members.values.sum
        counts["due"] = open + active_at(before(step)) + without_letter(step)
        counts["skipped"] = counts["planned"] - counts.values_at("sent", "failed", "in_doubt", "due").sum
        counts.slice(*FIGURES).merge("here" => active_at([step.id]))
      end

      # @param figure [String] of FIGURES
      # @param step_id [Integer, nil] nil: of any step
      # @return [Sequel::Dataset] of people
      def people_of(figure, step_id: nil)
        chosen = step_id ? steps.select { |step| step.id == step_id } : steps
        who = chosen.flat_map { |step| whose(figure, step) }
        Records::Person.where(Sequel.|(*who.map { |ids| {Sequel[:people][:id] => ids} }, false))
      end

      # @return [Sequel::Dataset] of members who will come to it, or have its letter written down and not out
      def on_the_way(step)
        open = written(step, STATES["open"]).select(:member_id)
        all.active.where(Sequel.|({id: open}, {step_id: before(step)}, {id: waiting(step).select(:id)}))
      end

      private

      def steps = @sequence.steps

      def before(step) = steps.take_while { |one| one.id != step.id }.map(&:id)

      # @return [Hash{Array(Integer, String)=>Integer}] by step and state
      def letters =
        @letters ||= Records::Delivery.where(sequence_id: @sequence.id).group_and_count(:step_id, :state).as_hash(%i[step_id state],
          :count)

      # @return [Hash{Array(Integer, String)=>Integer}] by the step they stand before, and state
      def members =
        @members ||= Records::Member.where(sequence_id: @sequence.id).group_and_count(:step_id, :state).as_hash(%i[step_id state], :count)

      def active_at(ids) = ids.sum { |id| members.fetch([id, "active"], 0) }

      # Those who stand before a step whose letter has no time yet.
      def without_letter(step) = (active_at([step.id]) > 0) ? waiting(step).count : 0

      def all = Records::Member.where(sequence_id: @sequence.id)

      def waiting(step) = all.active.where(step_id: step.id).exclude(id: written(step).select(:member_id))

      def written(step, states = STATES.values.flatten)
        Records::Delivery.where(sequence_id: @sequence.id, step_id: step.id, state: states)
      end

      # @return [Array<Sequel::Dataset>] numbers of people
      def whose(figure, step)
        case figure
        when "planned" then [all.select(:person_id)]
        when "due" then [written(step, STATES["open"]).select(:person_id), on_the_way(step).select(:person_id)]
        when "skipped"
          on_the_way = all.active.where(step_id: [*before(step), step.id])
          [all.exclude(id: written(step).select(:member_id)).exclude(id: on_the_way.select(:id)).select(:person_id)]
        else [written(step, STATES.fetch(figure)).select(:person_id)]
        end
      end
    end
  end
end
