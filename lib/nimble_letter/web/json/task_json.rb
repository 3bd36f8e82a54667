# frozen_string_literal: true

module NimbleLetter
  module Web
    # Tasks as the contract has them.
    module TaskJson
      COLUMNS = %i[id words state person_id account_id sequence_id step_id due_on outcome note reason done_at version].freeze

      # @param tasks [Array<Records::Task>]
      # @return [Array<Hash>]
      def self.rows(tasks)
        people = Records::Person.where(id: tasks.map(&:person_id).uniq).as_hash(:id)
        accounts = Records::Account.as_hash(:id)
        sequences = Records::Sequence.where(id: tasks.map(&:sequence_id).compact.uniq).select_hash(:id, :name)
        steps = Records::Step.where(id: tasks.map(&:step_id).compact.uniq).as_hash(:id)
        words = Work::OwnWords.of("outcomes")
        tasks.map do |task|
          {
            **task.values.slice(*COLUMNS),
            person: people[task.person_id].name,
            account: accounts[task.account_id]&.name,
            nobodys: !accounts[task.account_id]&.open?,
            sequence: sequences[task.sequence_id],
            outcomes: outcomes(steps[task.step_id], words)
          }
        end
      end

      # Those its step names, or all.
      def self.outcomes(step, words)
        named = step&.settings.to_h.fetch("outcomes", nil) || []
        return words if named.empty?

        named.map { |key| words.find { |one| one["key"] == key } || {"key" => key, "words" => key} }
      end
      private_class_method :outcomes
    end
  end
end
