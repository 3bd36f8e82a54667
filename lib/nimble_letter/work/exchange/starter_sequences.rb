# frozen_string_literal: true

require "yaml"

module NimbleLetter
  module Work
    # Sequences to begin with, for the situations of any small firm. They stand in starters/sequences as YAML with their letters in
    # Markdown; taken, one becomes a file like any other, and is made one's own in the same way.
    class StarterSequences
      FOLDER = File.join(ROOT, "starters", "sequences")

      # @return [Array<Hash>] key, name, about, steps in words
      def self.all
        @all ||= Dir[File.join(FOLDER, "*.yml")].sort.map do |path|
          said = YAML.safe_load_file(path)
          {key: File.basename(path, ".yml"), name: said["name"], about: said["about"], steps: words(said["steps"], said["letters"]),
           said: said}
        end
      end

      # @return [Hash] see docs/FILES.md
      # @raise [NotFound]
      def self.file(key, moment)
        starter = all.find { |one| one[:key] == key } or raise NotFound.new("There is no starter sequence #{key.inspect}.")
        new(starter[:said], moment).file
      end

      # @return [Array<String>] what happens in it, one after the other
      def self.words(steps, letters)
        steps.flat_map do |step|
          next [letters.fetch(step["letter"])["subject"].gsub(/\{\{[^|}]*\|?([^}]*)\}\}/, '\1').sub(/,\s*\z/, "")] if step["letter"]
          next ["Task: #{step["task"]}"] if step["task"]

          step["fork"]["lanes"].map { |lane| "#{lane["words"]}: #{words(lane["steps"], letters).join(", then ")}" }
            .reject { |line| line.end_with?(": ") }
        end
      end
      private_class_method :words

      def initialize(said, moment)
        @said, @moment = said, moment
        @numbers = @said["letters"].keys.each_with_index.to_h { |key, n| [key, n + 1] }
      end

      def file
        steps = steps(@said["steps"], [0])
        {
          "format" => SequenceOut::FORMAT,
          "name" => @said["name"],
          "leave_on" => @said.fetch("leave_on", %w[replied converted]),
          "steps" => steps,
          "letters" => @said["letters"].map { |key, one| {"id" => @numbers.fetch(key), "letter" => letter(one)} },
          **@said.slice("rules", "notes", "speaks_of")
        }
      end

      private

      # @param count [Array(Integer)] steps so far: they are numbered as they come
      def steps(all, count)
        all.map do |step|
          id = -(count[0] += 1)
          timing = step.except("letter", "task", "fork", "in_days")
          timing["on_date"] = (@moment.today + step["in_days"]).iso8601 if step["in_days"]
          own = if step["letter"] then {"kind" => "letter", "letter_id" => @numbers.fetch(step["letter"])}
          elsif step["task"] then {"kind" => "task", "words" => step["task"], "of" => "owner"}
          else
            {"kind" => "fork", "within" => step["fork"]["within"], "lanes" => lanes(step["fork"]["lanes"], count)}
          end
          {"id" => id, **own, **timing}
        end
      end

      def lanes(all, count)
        all.map do |lane|
          test = lane["test"]
          test = test.except("step").merge("step_id" => -test["step"]) if test&.key?("step")
          {"words" => (lane["words"] unless test.nil? && lane["words"] == "otherwise"), "test" => test, "comes_back" => lane["comes_back"],
           "steps" => steps(lane["steps"], count)}
        end
      end

      def letter(one)
        head = one.slice("subject", "preview").map { |name, value| "#{name}: #{JSON.generate(value)}\n" }.join
        LetterIn.new(@moment).markdown("---\n#{head}---\n\n#{one["body"]}", one["name"]).transform_keys(&:to_s)
      end
    end
  end
end
