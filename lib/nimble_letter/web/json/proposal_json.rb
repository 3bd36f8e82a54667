# frozen_string_literal: true

module NimbleLetter
  module Web
    # What is proposed for a sequence that runs, and what it would mean, as the contract has it.
    class ProposalJson
      # @param change [Work::ChangePlan]
      # @param counts [Boolean] whether everybody is counted
      # @return [Hash]
      def self.write(change, counts: false) = new(change).write(counts)

      def initialize(change)
        @change, @sequence = change, change.sequence
      end

      def write(counts)
        head = {version: @sequence.proposal_version, proposed: !@sequence.proposal.nil?, letters: []}
        return head unless @sequence.under_way?

        head[:letters] = @change.words.all.map { |one| letter(one) }
        head.merge!(**proposed) if @sequence.proposal
        return head unless counts && head.fetch(:unsaid, []).empty?

        {**head, counts: @change.reckon.counts, gaps: @change.gaps.map { |one| {**one, people: one[:people].size} }}
      end

      private

      def letter(one) =
        {letter_id: one.letter.id, **one.letter.values.slice(:name, :version), to_come: one.to_come.size,
         may_come: one.may_come.size, gaps: one.gaps.size, gaps_at_most: one.at_most}

      def proposed
        by = Records::Account.where(id: @sequence.proposed_by_id).get(:name)
        {by: by, at: @sequence.proposed_at, change: @sequence.proposal.slice(*Work::ChangePlan::PARTS.map(&:to_s)),
         only_later: @change.only_later?, **steps}
      end

      def steps
        before = @sequence.steps
        unsaid, after = @change.as_proposed { |sequence| [@change.unsaid, sequence.steps.map(&:id)] }
        {unsaid: unsaid.map { |step, words| {step_id: step.id, words: "Step #{step.position + 1}: #{words}"} },
         out: before.reject { |step| after.include?(step.id) }.map { |step| {step_id: step.id, words: @change.headline(step)} }}
      end
    end
  end
end
