# frozen_string_literal: true

module NimbleLetter
  module Web
    # The rules by which people join a sequence, as the contract has them.
    module JoinRuleJson
      COLUMNS = %i[id kind again gap_days live now_too listens version].freeze

      # @return [Array<Hash>] those by which somebody would join and waits
      def self.waiting(moment)
        counts = Records.db[:join_waits].group_and_count(:rule_id).as_hash(:rule_id, :count)
        Records::JoinRule.where(id: counts.keys).eager(:sequence).order(:id).map do |rule|
          {rule_id: rule.id, words: JoinWords.of(rule, moment), people: counts[rule.id], sequence_id: rule.sequence_id,
           sequence: rule.sequence.name}
        end
      end

      # @param rules [Array<Records::JoinRule>]
      def self.rows(rules, moment)
        ids = rules.map(&:id)
        people = Sequel.function(:count, :person_id).distinct.as(:count)
        joined = Records::Member.where(rule_id: ids).group(:rule_id).select_hash(:rule_id, people)
        waiting = Records.db[:join_waits].where(rule_id: ids).group_and_count(:rule_id).as_hash(:rule_id, :count)
        rules.map do |rule|
          {
            **rule.values.slice(*COLUMNS),
            settings: rule.settings,
            words: JoinWords.of(rule, moment),
            again_words: JoinWords.again(rule),
            joined: joined.fetch(rule.id, 0),
            waiting: waiting.fetch(rule.id, 0)
          }
        end
      end
    end
  end
end
