# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes a draft and changes its plan. Once started, only the name changes: what people were promised stays.
    module PlanSequence
      PLAN = %i[audience sender leave_on steps].freeze

      # @return [Records::Sequence] a draft from the mailbox of whoever makes it
      def self.make(name:, audience:, moment:)
        own =
          Records::Mailbox.where(account_id: moment.account.id).exclude(proved_at: nil).get(:id) ||
          Records::Mailbox.exclude(proved_at: nil).get(:id)
        moment.audience(audience) if audience
        name = name.to_s.strip
        Records::Sequence.create(
          name: name.empty? ? "Untitled sequence" : name,
          audience: audience || {},
          sender: {
            "kind" => "mailbox",
            "mailbox_id" => own
          },
          leave_on: %w[replied converted],
          account_id: moment.account.id,
          created_at: moment.now,
          updated_at: moment.now
        )
      end

      # @param input [Hash{Symbol=>Object}] version, and what changes
      # @raise [Invalid, Conflict]
      def self.change(sequence, input, moment:)
        if !sequence.draft? && (input.keys & PLAN).any?
          raise Invalid.new(
            "This sequence has been started; its plan stays as it is.",
            code: :not_a_draft,
            hint: "Stop it and make a new one to change the plan."
          )
        end
        moment.audience(input[:audience]) if input[:audience]
        Records.db.transaction do
          changes = input.slice(:audience, :sender, :leave_on).merge({name: input[:name]&.strip}.compact)
          sequence.change!(changes, version: input[:version], now: moment.now, touched: input.key?(:steps))
          lay_out(sequence, input[:steps]) if input[:steps]
          # What could not be frozen at the start is refused as it is laid out.
          Core::Journey::PlanJson.read(Core::Journey::PlanJson.write(sequence.refresh.laid_out)) if input[:steps]
        end
        sequence.refresh
      end

      # Steps keep their number where they can, since personal lines hang on them.
      def self.lay_out(sequence, steps)
        steps = steps.map { |step| step.merge(timing: timing(step.transform_keys(&:to_sym))) }
        kept = steps.filter_map { |step| step["id"] }
        sequence.steps_dataset.exclude(id: kept).delete
        steps.each_with_index do |step, position|
          values = {letter_id: step["letter_id"], position: position, other: other(step["other"]),
                    **Records::Step.timing_columns(step[:timing])}
          existing = step["id"] && Records::Step.first(id: step["id"], sequence_id: sequence.id)
          existing ? existing.update(values) : Records::Step.create(values.merge(sequence_id: sequence.id))
        end
      end
      private_class_method :lay_out

      # @return [Core::Calendar::Timing]
      def self.timing(json)
        timing = Records::Step.timing_of(json)
        return timing unless timing.counted == "field"

        field = Records::FieldCatalogue.current[timing.field]
        return timing if field&.type == :date && !field.retired? && %w[person company deal].include?(field.subject)

        raise Invalid.new("There is no date “#{timing.field.to_s[0, 60]}” to count from.", code: :unknown_field, at: "steps.field")
      end
      private_class_method :timing

      # @return [Hash, nil] see Records::Step
      def self.other(json)
        return unless json

        rule = {
          "at_least" => json.fetch("at_least", Core::Letters::Split::AT_LEAST),
          "after_hours" => json.fetch("after_hours", Core::Letters::Split::AFTER_HOURS)
        }
        return {"what" => "letter", "letter_id" => json["letter_id"], **rule} if json["what"] == "letter"

        document =
          Core::Letters::Document.parse!(
            json["subject"],
            at: "steps.other.subject",
            catalogue: Records::FieldCatalogue.current,
            line: true
          )
        {"what" => "subject", "subject" => document.to_h, **rule}
      end
      private_class_method :other
    end
  end
end
