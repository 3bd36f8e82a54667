# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # A plan as it is kept: JSON with every step's id, kind and timing, lanes within their forks. Reading it refuses what cannot be
      # meant, with where it stands.
      class PlanJson
        KINDS = {"letter" => Steps::Letter, "task" => Steps::Task, "change" => Steps::Change, "hand_over" => Steps::HandOver,
                 "fork" => Steps::Fork}.freeze
        NAMES = KINDS.invert.freeze
        MOST_STEPS = 200
        DEEPEST = 6 # forks within forks
        MOST_LANES = 12

        # @param plan [Plan]
        # @return [Hash]
        def self.write(plan)
          {
            "steps" => plan.steps.map { |step| write_step(step) },
            "leave_on" => plan.leave_on & Happenings::OPTIONALLY_OUT,
            "leave_if" => plan.leave_if,
            "ends_at" => plan.ends_at&.getutc&.iso8601(6)
          }
        end

        # @param json [Hash]
        # @param number [Integer]
        # @param half_made [Boolean] whether a step may still lack what its kind needs, as in a draft
        # @return [Plan]
        # @raise [Invalid]
        def self.read(json, number: 1, half_made: false) = new(half_made).read(json, number)

        def initialize(half_made)
          @half_made = half_made
        end

        def read(json, number)
          @seen = []
          steps = steps(json.fetch("steps"), "steps", 0)
          plan = Plan.new(steps: steps, leave_on: json.fetch("leave_on", []), leave_if: json["leave_if"].freeze,
            ends_at: time(json["ends_at"], "ends_at"), number: number)
          led_from_before(plan)
          plan
        end

        # @api private
        def self.write_step(step)
          values = step.to_h.compact.transform_keys(&:to_s)
          values["timing"] = write_timing(step.timing) if values.key?("timing")
          values["within"] = write_timing(step.within) if values.key?("within")
          if values.key?("not_after")
            values["not_after"] =
              {"at" => step.not_after.at&.getutc&.iso8601(6), "seconds" => step.not_after.seconds}.compact
          end
          values["lanes"] = step.lanes.map { |lane| write_lane(lane) } if values.key?("lanes")
          {"kind" => NAMES.fetch(step.class), **values}
        end
        private_class_method :write_step

        # @api private
        def self.write_timing(timing)
          timing.to_h.reject { |name, value| value == Calendar::Timing::DEFAULTS[name] }
            .to_h { |name, value| [name.to_s, value.is_a?(Date) ? value.iso8601 : value] }
        end
        private_class_method :write_timing

        # @api private
        def self.write_lane(lane)
          test = lane.test
          {
            "id" => lane.id,
            "words" => lane.words,
            "test" => test && (test.is_a?(Steps::Holds) ? {"condition" => test.condition} : test.to_h.compact.transform_keys(&:to_s)),
            "comes_back" => lane.comes_back,
            "steps" => lane.steps.map { |step| write_step(step) }
          }.compact
        end
        private_class_method :write_lane

        private

        def steps(list, at, depth)
          wrong("Forks stand within forks #{DEEPEST} deep at most.", at) if depth > DEEPEST
          list.each_with_index.map { |step, i| step(step, "#{at}[#{i}]", depth) }
        end

        def step(json, at, depth)
          kind = KINDS[json["kind"]] or wrong("A step is one of #{KINDS.keys.join(", ")}.", "#{at}.kind")
          @seen << json["id"]
          if @seen.size > MOST_STEPS
            wrong("A plan has #{MOST_STEPS} steps at most.", "steps",
              "Make it two sequences, one handing over to the other.")
          end
          return fork(json, at, depth) if kind == Steps::Fork

          values = json.slice(*(kind.members.map(&:to_s) - %w[timing not_after])).transform_keys(&:to_sym)
          step = kind.new(**values, timing: timing(json.fetch("timing", {}), "#{at}.timing"),
            not_after: not_after(json["not_after"], "#{at}.not_after"))
          StepCheck.call(step) { |message, place| wrong(message, "#{at}.#{place}") } unless @half_made && StepCheck.missing(step)
          step
        end

        def fork(json, at, depth)
          lanes = json.fetch("lanes", [])
          wrong("This fork has no lane.", "#{at}.lanes", "Say what it waits for, or take it out.") if lanes.empty? && !@half_made
          rest = lanes.reject { |lane| lane["test"] }
          wrong("A fork has one “otherwise” at most.", "#{at}.lanes") if rest.size > 1
          wrong("A fork has #{MOST_LANES} lanes at most.", "#{at}.lanes") if lanes.size > MOST_LANES
          within = json["within"] && timing(json["within"], "#{at}.within")
          Steps::Fork.new(id: json["id"], within: within,
            lanes: lanes.each_with_index.map { |lane, i| lane(lane, "#{at}.lanes[#{i}]", depth) })
        end

        def lane(json, at, depth) =
          Steps::Lane.new(id: json["id"], words: json["words"], test: json["test"] && test(json["test"], "#{at}.test"),
            comes_back: json.fetch("comes_back", true), steps: steps(json.fetch("steps", []), "#{at}.steps", depth + 1))

        def test(json, at)
          return Steps::Holds.new(condition: json["condition"]) if json["condition"]

          unless Happenings::WAITED_FOR.include?(json["kind"])
            wrong("A lane waits for one of #{Happenings::WAITED_FOR.join(", ")}, or asks a condition.", "#{at}.kind")
          end
          Steps::Reaction.new(**json.slice("kind", "step_id", "link", "outcome").transform_keys(&:to_sym))
        end

        def timing(json, at)
          values = json.transform_keys(&:to_sym)
          values[:date] = date(values[:date], "#{at}.date") if values[:date]
          Calendar::Timing.new(**values)
        rescue Invalid => error
          raise Invalid.new(error.message, code: error.code, at: [at, error.at&.delete_prefix("#{at}.")].compact.join("."))
        end

        def not_after(json, at)
          return unless json

          seconds = json["seconds"]
          fits = seconds.nil? || (seconds.is_a?(Integer) && seconds >= 0)
          wrong("So long after it was due is a number of seconds.", "#{at}.seconds") unless fits
          Steps::NotAfter.new(at: time(json["at"], "#{at}.at"), seconds: seconds)
        end

        # A lane can only be about a letter or task that comes before its fork.
        def led_from_before(plan)
          before = []
          plan.all.each do |step|
            if step.is_a?(Steps::Fork)
              asked = step.lanes.map(&:test).grep(Steps::Reaction).filter_map(&:step_id)
              if (asked - before).any?
                wrong("A lane asks about a step that does not come before it.", "steps",
                  "Choose a letter or task above.")
              end
            end
            before << step.id
          end
        end

        def time(text, at)
          text && Time.iso8601(text).utc
        rescue ArgumentError
          wrong("“#{text.to_s[0, 40]}” is no time.", at)
        end

        def date(text, at)
          text.is_a?(Date) ? text : Date.iso8601(text.to_s[0, 40])
        rescue ArgumentError
          wrong("“#{text.to_s[0, 40]}” is no day.", at)
        end

        def wrong(message, at, hint = nil) = raise(Invalid.new(message, code: :plan_unclear, at: at, hint: hint))
      end
    end
  end
end
