# frozen_string_literal: true

module NimbleLetter
  module Web
    # What is proposed for a sequence that runs, and what it would mean, as the contract has it.
    module ProposalJson
      # @param sequence [Records::Sequence]
      # @return [Hash]
      def self.write(sequence, moment)
        head = {version: sequence.proposal_version, proposed: !sequence.proposal.nil?}
        return head unless sequence.proposal

        by = Records::Account.where(id: sequence.proposed_by_id).get(:name)
        counts = Work::ChangePlan.new(sequence, moment).reckon.counts
        {**head, by: by, at: sequence.proposed_at, change: sequence.proposal, counts: counts}
      end
    end
  end
end
