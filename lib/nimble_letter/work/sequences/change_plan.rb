# frozen_string_literal: true

module NimbleLetter
  module Work
    # A change of a sequence that runs: proposed, shared by colleagues, reckoned, and then let take effect as a frozen plan with the next
    # number. Its members are moved into it slice by slice, see ApplyPlan.
    class ChangePlan
      PARTS = %i[steps leave_on leave_if ends_at].freeze

      # @param sequence [Records::Sequence]
      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # Keeps what is proposed, if it could take effect.
      # @param input [Hash{Symbol=>Object}] of PARTS; what is missing stays as it is
      # @param version [Integer] of the proposal, as the person saw it; 0 is none yet
      # @raise [Invalid, Conflict]
      def propose(input, version:)
        input = input.slice(*PARTS)
        Records.db.transaction do
          under_way!(version)
          laid_out(input)
          @sequence.update(proposal: input, proposal_version: @sequence.proposal_version + 1, proposed_by_id: @moment.account&.id,
            proposed_at: @moment.now)
        end
        @sequence
      end

      def discard(version:)
        Records.db.transaction do
          under_way!(version)
          clear
        end
        @sequence
      end

      # @return [ChangedWords] what was written in its letters since
      def words = @words ||= ChangedWords.new(@sequence, @moment)

      # What it would mean for those who are on the way, and nothing of it is done.
      # @return [Reckoning]
      def reckon = @reckon ||= Reckoning.new(@sequence, laid_out(proposal || {}), @moment, reworded: words.letters.map(&:id))

      # @param version [Integer] of the proposal, as the person saw it
      # @param letters [Array<Hash>] whose new words go out from now on: letter_id, and version as the person saw it
      # @param proposed [Boolean] whether what is proposed takes effect; false: it stays proposed
      # @return [Records::Sequence] its members are moved by the worker, whoever is quicker
      # @raise [Invalid] when there is nothing that could
      def effect(version:, letters: [], proposed: true)
        Records.db.transaction do
          under_way!(version)
          change = proposed ? proposal : nil
          raise Invalid.new("Nothing is proposed.", code: :no_proposal) if change.nil? && letters.empty?

          @moment.fresh! if @sequence.members_dataset.active.count > Moment::MANY
          anew = words.taken(letters)
          write(change) if change
          freeze_plan(anew, words_only: change.nil?)
          clear if change
          @sequence.update(version: @sequence.version + 1, updated_at: @moment.now)
        end
        @sequence
      end

      private

      def freeze_plan(anew, words_only:)
        plan = @sequence.laid_out(@sequence.plans_dataset.max(:number) + 1)
        account_id = @moment.account&.id
        Records::FrozenPlan.make(@sequence, plan, at: @moment.now, account_id: account_id, anew: anew, words_only: words_only)
        data = {plan: plan.number, letters: (anew if anew.any?)}.compact
        SequenceEvents.append("plan_changed", @sequence.id, at: @moment.now, account_id: account_id, data: data)
      end

      # @return [Hash{Symbol=>Object}, nil]
      def proposal = @sequence.proposal&.transform_keys(&:to_sym)

      def under_way!(version)
        @sequence.lock!
        unless %w[running paused].include?(@sequence.state)
          raise Invalid.new("Only a sequence that runs or is paused is changed like this.", code: :not_running)
        end
        return if @sequence.proposal_version == version

        raise Conflict.new("Somebody else has changed this proposal meanwhile.", hint: "Look at what they wrote, then go on.",
          data: {version: @sequence.proposal_version})
      end

      def clear = @sequence.update(proposal: nil, proposal_version: @sequence.proposal_version + 1, proposed_by_id: nil, proposed_at: nil)

      # As it would be, without its being so: what is new has numbers only for the time being.
      # @return [Core::Journey::Plan]
      def laid_out(input)
        plan = nil
        Records.db.transaction(savepoint: true, rollback: :always) do
          write(input)
          plan = @sequence.laid_out(@sequence.plans_dataset.max(:number) + 1)
        end
        @sequence.refresh
        plan
      end

      def write(input)
        columns = input.slice(:leave_on, :leave_if)
        @moment.parser.parse!(columns[:leave_if]) if columns[:leave_if]
        columns[:ends_at] = PlanSequence.time(input[:ends_at]) if input.key?(:ends_at)
        @sequence.update(columns) if columns.any?
        LayOut.new(@sequence, @moment).call(input[:steps]) if input[:steps]
        raise Invalid.new("There is no step left in it.", at: "steps") if @sequence.refresh.steps.empty?
      end
    end
  end
end
