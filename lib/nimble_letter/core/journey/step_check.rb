# frozen_string_literal: true

module NimbleLetter
  module Core
    module Journey
      # What can be wrong with one step by itself, whatever stands around it.
      module StepCheck
        LONGEST_WORDS = 300
        MOST_DAYS = 260 # working days a colleague has for a task: a year
        MOST_OUTCOMES = 20

        # @param step [Steps::Letter, Steps::Task, Steps::Change, Steps::HandOver, Steps::Fork]
        # @return [String, nil] what has not been said of it yet, so that it can be laid out but not started
        def self.missing(step)
          case step
          when Steps::Letter then "no letter chosen" unless step.letter_id
          when Steps::Task then "nothing said to do" if step.words.to_s.strip.empty?
          when Steps::Change then "nothing said to change" if nothing_said?(step)
          when Steps::HandOver then "no sequence chosen" unless step.sequence_id
          when Steps::Fork then "no lane yet" if step.lanes.empty?
          end
        end

        def self.nothing_said?(step)
          needed = ChangeKinds::NEEDS[step.what] or return step.what.nil?
          # Nobody for an owner, and nothing for a value, can be meant: that they are said is enough.
          step.to.nil? || needed.any? { |name| !step.to.key?(name) } || step.to["names"] == []
        end
        private_class_method :nothing_said?

        # @param step [Steps::Letter, Steps::Task, Steps::Change, Steps::HandOver]
        # @yield [String, String] what is wrong, and where within the step
        def self.call(step, &wrong)
          case step
          when Steps::Task then task(step, &wrong)
          when Steps::Change then ChangeKinds.wrong(step.what, step.to).then { |words| wrong.call(words, "what") if words }
          when Steps::HandOver
            wrong.call("Say to which sequence it hands over.", "sequence_id") unless step.sequence_id.is_a?(Integer)
          end
        end

        def self.task(step)
          unless step.words.is_a?(String) && step.words.strip != "" && step.words.length <= LONGEST_WORDS
            yield "A task says in up to #{LONGEST_WORDS} letters what is to be done.", "words"
          end
          unless %w[owner sender].include?(step.of) || step.of.is_a?(Integer)
            yield "A task is the owner’s, the sender’s, or that of a colleague.", "of"
          end
          yield "A task is due in 0 to #{MOST_DAYS} working days.", "due_in" unless (0..MOST_DAYS).cover?(step.due_in)
          outcomes = step.outcomes
          fits = outcomes.is_a?(Array) && outcomes.size <= MOST_OUTCOMES && outcomes.all?(String)
          yield "A task has up to #{MOST_OUTCOMES} outcomes.", "outcomes" unless fits
        end
        private_class_method :task
      end
    end
  end
end
