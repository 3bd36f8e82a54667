# frozen_string_literal: true

module NimbleLetter
  module Work
    # A colleague says that a task is done, and what came of it. A sequence that waits for it goes on at once, in the lane for that
    # outcome where there is one.
    module DoTask
      NOTE = 2000 # letters

      # @param task [Records::Task]
      # @param outcome [String, nil] key, see OwnWords
      # @param note [String, nil]
      # @param version [Integer]
      # @return [Records::Task]
      # @raise [Invalid, Conflict]
      def self.call(task, outcome:, note:, version:, moment:)
        check(task, outcome)
        Records.db.transaction do
          # In the order in which everything else takes them: the member first.
          task.member&.lock!
          task.lock!
          raise Invalid.new("This task is #{task.state} already.", code: :wrong_state) unless task.state == "open"

          task.change!(
            {state: "done", outcome: outcome, note: note&.slice(0, NOTE), done_at: moment.now, done_by_id: moment.account&.id},
            version: version,
            now: moment.now
          )
          Happening.call("task_done", at: moment.now, person_id: task.person_id, account_id: moment.account&.id, of: about(task),
            data: {outcome: outcome, task_id: task.id, words: task.words, note: task.note}.compact)
        end
        task
      end

      def self.check(task, outcome)
        return if outcome.nil?

        offered = (task.step&.settings.to_h.fetch("outcomes", nil) || []) + OwnWords.of("outcomes").map { |one| one["key"] }
        return if offered.include?(outcome)

        hint = "It is one of #{offered.join(", ")}."
        raise Invalid.new("There is no outcome #{outcome.to_s[0, 60].inspect}.", at: "outcome", hint: hint)
      end
      private_class_method :check

      def self.about(task) = task.values.slice(:sequence_id, :step_id, :member_id)
      private_class_method :about
    end
  end
end
