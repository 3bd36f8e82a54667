# frozen_string_literal: true

module NimbleLetter
  module Web
    # What is proposed for a sequence that runs, and what it would mean, as the contract has it.
    module ProposalJson
      # @param sequence [Records::Sequence]
      # @param counts [Boolean] whether everybody is counted although nothing but words is new
      # @return [Hash]
      def self.write(sequence, moment, counts: false)
        head = {version: sequence.proposal_version, proposed: !sequence.proposal.nil?, letters: []}
        return head unless %w[running paused].include?(sequence.state)

        change = Work::ChangePlan.new(sequence, moment)
        head[:letters] = change.words.all.map { |one| letter(one) }
        return head unless sequence.proposal || counts

        {**head, **proposed(sequence), counts: change.reckon.counts}
      end

      def self.letter(one) =
        {letter_id: one.letter.id, **one.letter.values.slice(:name, :version), to_come: one.to_come, gaps: one.gaps,
         gaps_at_most: one.at_most}
      private_class_method :letter

      def self.proposed(sequence)
        return {} unless sequence.proposal

        by = Records::Account.where(id: sequence.proposed_by_id).get(:name)
        {by: by, at: sequence.proposed_at, change: sequence.proposal}
      end
      private_class_method :proposed
    end
  end
end
