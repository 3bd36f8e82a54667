# frozen_string_literal: true

module NimbleLetter
  module Work
    # What the steps and lanes of a plan are, as people say it.
    class StepWords
      KINDS = {"letter" => "Letter", "task" => "Task", "change" => "Change", "hand_over" => "Hand-over", "fork" => "Fork"}.freeze
      OF = {"owner" => "the owner", "sender" => "the sender"}.freeze
      REACTIONS = {"opened" => "opens", "clicked" => "clicks", "replied" => "replies", "converted" => "converts",
                   "bounced" => "address fails", "task_done" => "task is done"}.freeze

      # @param sequence [Records::Sequence]
      # @param moment [Moment]
      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # @param step [Records::Step]
      # @return [String] "Task for the owner: ring them"
      def headline(step)
        has = step.settings.to_h
        case step.kind
        when "letter" then step.letter&.name || "No letter chosen"
        when "task" then "#{has["words"] || "A task"} (#{OF[has.fetch("of", "owner")] || colleague(has["of"])})"
        when "change" then change(has["what"], has["to"])
        when "hand_over" then "Over to #{other(has["sequence_id"])}"
        else waits(has["within"])
        end
      end

      # @param lane [Records::Lane]
      # @return [String] its own words, or what it waits for
      def lane(lane)
        return lane.words if lane.words
        return "otherwise" unless lane.test
        return sentences.of(lane.test["condition"]) if lane.test["condition"]

        [REACTIONS.fetch(lane.test["kind"]), about(lane.test)].compact.join(" ")
      end

      private

      def sentences = @sentences ||= Sentences.new(@moment)

      def about(test)
        step = test["step_id"] && numbers[test["step_id"]]
        [test["link"] && "“#{test["link"]}”", test["outcome"] && "with “#{OwnWords.say("outcomes", test["outcome"])}”",
          step && "(step #{step + 1})"].compact.join(" ").then { |words| words unless words.empty? }
      end

      def numbers = @numbers ||= @sequence.steps.to_h { |step| [step.id, step.position] }

      def waits(within)
        return "Ways part at once" unless within

        timing = Records::Step.timing_of(within.transform_keys(&:to_sym))
        return "Waits until #{TimingWords.say(timing, first: false)}" unless timing.counted == "step"

        "Waits up to #{timing.amount} #{TimingWords::UNITS.fetch(timing.unit)[(timing.amount == 1) ? 0 : 1]}"
      end

      def change(what, to)
        return "A change" if what.nil? || to.nil?

        case what
        when "stage" then "Deal to “#{MakeChange.stage(to)&.[]("words") || to["stage"]}”"
        when "status" then "Status “#{MemberStatus.of(@sequence).words(to["status"])}”"
        else Act.new({**to, "kind" => what}, @moment).to_do
        end
      rescue Invalid, NotFound
        "A change that cannot be made any more"
      end

      def other(id)
        return "another sequence" if id.nil?

        Records::Sequence[id]&.name&.then { |name| "“#{name}”" } || "a sequence that is gone"
      end

      def colleague(id) = Records::Account[id]&.name || "a colleague who is gone"
    end
  end
end
