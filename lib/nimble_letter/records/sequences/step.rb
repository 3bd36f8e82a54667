# frozen_string_literal: true

module NimbleLetter
  module Records
    # One step of a plan as it is laid out: its kind, its timing, and what its kind needs. Steps are numbered through the whole plan
    # (`position`), those of a lane behind their fork.
    class Step < Sequel::Model(:steps)
      extend JsonColumn

      # A plan asks for the letter of each of its steps: one question for all.
      plugin :tactical_eager_loading

      # settings: what Core::Journey::PlanJson has of a step besides id, kind, letter and timing
      json_column :other, :settings

      many_to_one :sequence
      many_to_one :letter
      many_to_one :lane
      one_to_many :lanes, key: :fork_id, order: :position, conditions: {out_at: nil}

      dataset_module do
        def letters = where(kind: "letter")

        # Those that send one of these letters, as their own or as the other of two versions.
        def sending(letter_ids) =
          where(out_at: nil).where(Sequel.|({letter_id: letter_ids}, {Sequel.function(:json_value, :other, "$.letter_id") => letter_ids}))
      end

      # other: nil, or {"what" => "subject", "subject" => document} or {"what" => "letter", "letter_id" => Integer}, and when one
      # may be called the better: "at_least" letters of each, "after_hours" since the last went out
      TIMING = %i[counted amount unit field yearly from_minute to_minute days zone late no_date].freeze

      # @param timing [Core::Calendar::Timing]
      # @return [Hash{Symbol=>Object}] columns
      def self.timing_columns(timing) = timing.to_h.slice(*TIMING).merge(on_date: timing.date, weekdays: timing.weekdays.join)

      # @param json [Hash{Symbol=>Object}] parts of a timing as the contract has them
      # @return [Core::Calendar::Timing]
      # @raise [Invalid]
      def self.timing_of(json)
        date = json[:on_date]
        Core::Calendar::Timing.new(**json.slice(*TIMING, :weekdays).compact, date: date && Date.iso8601(date.to_s[0, 40]))
      rescue Date::Error
        raise Invalid.new("“#{date.to_s[0, 40]}” is no day.", at: "steps.on_date")
      end

      # @param version [String, nil] "a" or "b"
      # @return [Letter] what members with that version get
      def letter_of(version)
        return letter unless version == "b" && other && other["what"] == "letter"

        Letter[other["letter_id"]] || letter
      end

      # @return [Array<Integer>] numbers of the letters it sends
      def letter_ids = [letter_id, other&.[]("letter_id")].compact

      # @return [Hash, nil] the other subject of a member with that version
      def subject_of(version) = ((version == "b" && other && other["what"] == "subject") ? other["subject"] : nil)

      def timing = Core::Calendar::Timing.new(**values.slice(*TIMING), date: on_date, weekdays: weekdays.chars.map(&:to_i))

      # @return [Hash] as the contract has it
      def timing_json = values.slice(*TIMING, :on_date).merge(weekdays: timing.weekdays)

      def letter? = kind == "letter"

      # @return [Core::Journey::Steps] by itself; of a fork with whether it has lanes
      def to_core
        kind = Core::Journey::PlanJson::KINDS.fetch(self.kind)
        has = settings.to_h.slice(*kind.members.map(&:to_s)).except("timing", "within", "not_after").transform_keys(&:to_sym)
        has[:letter_id] = letter_id if letter?
        has[:lanes] = lanes if self.kind == "fork"
        kind.new(id: id, **has)
      end

      # @return [Hash] as Core::Journey::PlanJson reads it, without its lanes
      def to_plan
        own = {"id" => id, "kind" => kind, "letter_id" => letter_id, **settings.to_h}.compact
        (kind == "fork") ? own : own.merge("timing" => timing.to_h.transform_keys(&:to_s))
      end
    end
  end
end
