# frozen_string_literal: true

module NimbleLetter
  module Work
    # Writes the steps of a plan as they came, each under a number for life: personal lines, and later what happened, hang on it.
    # What is new may come with a negative number of its own, so that a lane can be about it.
    class LayOut
      # What the steps of each kind keep beside letter and timing.
      COMMON = %w[only_for not_after].freeze
      SETTINGS = {
        "letter" => COMMON + %w[look_first same_thread without_it],
        "task" => COMMON + %w[words of due_in waits outcomes],
        "change" => COMMON + %w[what to],
        "hand_over" => COMMON + %w[sequence_id stays],
        "fork" => %w[within]
      }.freeze

      # @param sequence [Records::Sequence] locked
      # @param moment [Moment]
      # @param half_made [Boolean] whether a step may be there of which something is still to be said
      def initialize(sequence, moment, half_made: sequence.draft?)
        @sequence, @moment, @half_made = sequence, moment, half_made
      end

      # @param steps [Array<Hash>] see StepInput in the contract
      # @raise [Invalid] and nothing is written for good: the caller holds a transaction
      def call(steps)
        @own = Records::Step.where(sequence_id: @sequence.id).as_hash(:id)
        @own_lanes = Records::Lane.where(fork_id: @own.keys).as_hash(:id)
        @numbers, @kept, @kept_lanes, @tests = {}, [], [], []
        put(steps, nil)
        take_out(Records::Lane.where(id: @own_lanes.keys - @kept_lanes))
        take_out(Records::Step.where(id: @own.keys - @kept))
        @tests.each { |lane, test| lane.update(test: test && about(test)) }
      end

      private

      # It stays: somebody may have passed it, or want it back with what was written for it.
      def take_out(gone) = gone.where(out_at: nil).update(out_at: @moment.now)

      def put(steps, lane_id)
        steps.each do |json|
          step = write(json, lane_id)
          put_lanes(step, json.fetch("lanes", nil) || []) if step.kind == "fork"
        end
      end

      def write(json, lane_id)
        kind = json.fetch("kind", "letter")
        values = {kind: kind, lane_id: lane_id, position: @kept.size, letter_id: nil, other: nil, settings: settings(kind, json)}
        values[:letter_id], values[:other] = letter(json["letter_id"]), other(json["other"]) if kind == "letter"
        values.merge!(Records::Step.timing_columns(timing(json.transform_keys(&:to_sym)))) unless kind == "fork"
        step = @own[json["id"]]
        raise twice if step && @kept.include?(step.id)
        raise another if step && !@sequence.draft? && step.kind != kind

        step ? step.update(**values, out_at: nil) : step = Records::Step.create(values.merge(sequence_id: @sequence.id))
        @numbers[json["id"]] = step.id if json["id"]
        @kept << step.id
        step
      end

      def put_lanes(step, lanes)
        lanes.each_with_index do |json, position|
          lane = @own_lanes[json["id"]]
          raise twice if lane && @kept_lanes.include?(lane.id)

          values = {fork_id: step.id, position: position, words: json["words"], comes_back: json.fetch("comes_back", true)}
          lane ? lane.update(**values, out_at: nil) : lane = Records::Lane.create(values)
          @kept_lanes << lane.id
          @tests << [lane, json["test"]]
          put(json.fetch("steps", nil) || [], lane.id)
        end
      end

      def another = Invalid.new("A step that runs stays of its kind.", at: "steps.kind", hint: "Take it out, and put in another.")

      def twice = Invalid.new("One step stands in this plan twice.", code: :step_twice, at: "steps")

      # @return [Hash] as Core::Journey::PlanJson reads it
      def settings(kind, json)
        values = json.slice(*SETTINGS.fetch(kind)).compact
        values["within"] = Records::Step.timing_of(values["within"].transform_keys(&:to_sym)).to_h if values["within"]
        values["only_for"] && condition(values["only_for"], "steps.only_for")
        change(values) if kind == "change" && !half_made?(Core::Journey::Steps::Change.new(id: 0, what: values["what"], to: values["to"]))
        task(values) if kind == "task"
        hand_over(values) if kind == "hand_over" && !(@half_made && values["sequence_id"].nil?)
        values if values.any?
      end

      def half_made?(step) = @half_made && Core::Journey::StepCheck.missing(step)

      def condition(json, at)
        @moment.parser.parse!(json)
      rescue Invalid => error
        raise Invalid.new(error.message, code: error.code, at: "#{at}.#{error.at}", hint: error.hint)
      end

      def change(values)
        wrong = Core::Journey::ChangeKinds.wrong(values["what"], values["to"])
        raise Invalid.new(wrong, code: :plan_unclear, at: "steps.what") if wrong

        MakeChange.check(values["what"], values["to"], @sequence, @moment)
      end

      def task(values)
        return unless values["of"].is_a?(Integer) && Records::Account[values["of"]].nil?

        raise Invalid.new("There is no such colleague.", at: "steps.of")
      end

      def hand_over(values)
        other = Records::Sequence[values["sequence_id"].to_i] or raise Invalid.new("There is no such sequence.", at: "steps.sequence_id")
        raise Invalid.new("A sequence cannot hand over to itself.", at: "steps.sequence_id") if other.id == @sequence.id
      end

      # @return [Hash] a lane's test with the numbers that steps have got
      def about(test)
        condition(test["condition"], "steps.lanes.test") if test["condition"]
        test["step_id"] ? test.merge("step_id" => @numbers.fetch(test["step_id"], test["step_id"])) : test
      end

      # @return [Core::Calendar::Timing]
      def timing(json)
        timing = Records::Step.timing_of(json)
        return timing unless timing.counted == "field"

        field = Records::FieldCatalogue.current[timing.field]
        return timing if field&.type == :date && !field.retired? && %w[person company deal].include?(field.subject)

        raise Invalid.new("There is no date “#{timing.field.to_s[0, 60]}” to count from.", code: :unknown_field, at: "steps.field")
      end

      # @return [Integer, nil]
      def letter(id)
        return id if id.nil? || Records::Letter.where(id: id).any?

        raise Invalid.new("There is no such letter.", at: "steps.letter_id")
      end

      # @return [Hash, nil] see Records::Step
      def other(json)
        return unless json

        letter(json["letter_id"])

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
    end
  end
end
