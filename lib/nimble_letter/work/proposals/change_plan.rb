# frozen_string_literal: true

module NimbleLetter
  module Work
    # A change of a sequence that runs: proposed, shared by colleagues, reckoned, and then let take effect as a frozen plan with the next
    # number. Its members are moved into it slice by slice, see ApplyPlan.
    class ChangePlan
      PARTS = %i[steps leave_on leave_if ends_at].freeze
      # Beside what it changes: whether the steps it inserts are only for people who arrive later.
      HOW = :only_later

      # @return [Records::Sequence]
      attr_reader :sequence

      # @param sequence [Records::Sequence]
      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # Keeps what is proposed. Something may still be to be said of a step, as in a draft; it takes effect only once it is. What is as
      # it runs already is no proposal.
      # @param input [Hash{Symbol=>Object}] of PARTS, and HOW; what is missing stays as it was proposed, or is
      # @param version [Integer] of the proposal, as the person saw it; 0 is none yet
      # @raise [Invalid, Conflict]
      def propose(input, version:)
        input = input.slice(*PARTS, HOW)
        Records.db.transaction do
          under_way!(version)
          input = input.merge(steps: NumberSteps.new(@sequence, @moment).call(input[:steps])) if input[:steps]
          input = {**proposal.to_h, **input}
          differs = as_proposed(input) { @sequence.laid_out(next_number, half_made: true) && as_laid_out } != as_laid_out
          next clear unless differs

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

      # As it would be, and which steps are another than in the plan in effect.
      # @yield [Records::Sequence, Hash{Integer=>String}] "new" or "changed" by step
      # @return what the block returns
      def as_proposed_with_marks
        before = @sequence.steps.to_h { |step| [step.id, said_of(step)] }
        as_proposed do |sequence|
          marks = sequence.steps.to_h { |step| [step.id, before.key?(step.id) ? ("changed" if before[step.id] != said_of(step)) : "new"] }
          yield(sequence, marks.compact)
        end
      end

      # @return [ChangedWords] what was written in its letters since
      def words = @words ||= ChangedWords.new(@sequence, @moment)

      # @return [Array<Array(Records::Step, String)>] of which steps something is still to be said, as the plan is laid out
      def unsaid = Unsaid.new(@moment).all(@sequence.steps)

      # Of letters that are new at their step: somebody on the way who has nothing for a field would wait there.
      # @return [Array<Hash>] step_id, words, people (their ids; at most they)
      def gaps
        before = @sequence.letter_steps.to_h { |step| [step.id, step.letter_id] }
        ids = @sequence.members_dataset.active.select_map(:person_id)
        as_proposed do |sequence|
          fresh = sequence.letter_steps.select { |step| step.letter && before[step.id] != step.letter_id }
          found = fresh.map { |step| [step, MayHaveGap.new(step, @moment, Sender.of(sequence, @moment).boxes).among(ids).to_a] }
          found.reject { |_, people| people.empty? }.map { |step, people| {step_id: step.id, words: headline(step), people: people} }
        end
      end

      # @param step [Records::Step]
      def headline(step) = StepWords.new(@sequence, @moment).headline(step)

      # What it would mean for those who are on the way, and nothing of it is done.
      # @return [Reckoning]
      # @raise [Invalid] while something is still to be said of a step
      def reckon
        @reckon ||= begin
          plan = as_proposed { @sequence.laid_out(next_number) }
          Reckoning.new(@sequence, plan, @moment, reworded: words.people, only_later: only_later?)
        end
      end

      # @return [Boolean] whether the inserted steps are only for people who arrive later
      def only_later? = proposal&.fetch(HOW, false) || false

      # As it would be, without its being so.
      # @yield [Records::Sequence]
      # @return what the block returns
      def as_proposed(input = proposal || {})
        made = nil
        Records.db.transaction(savepoint: true, rollback: :always) do
          write(input, half_made: true)
          made = yield(@sequence)
        end
        @sequence.refresh
        made
      end

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
          write(change, half_made: false) if change
          freeze_plan(anew, words_only: change.nil?, only_later: change&.fetch(HOW, false) || false)
          clear if change
          @sequence.update(version: @sequence.version + 1, updated_at: @moment.now)
        end
        @sequence
      end

      # @raise [Invalid] of a draft, and of what has ended
      def runs!
        return if @sequence.under_way?

        raise Invalid.new("Only a sequence that runs or is paused is changed like this.", code: :not_running)
      end

      private

      def freeze_plan(anew, words_only:, only_later:)
        plan = @sequence.laid_out(next_number)
        account_id = @moment.account&.id
        Records::FrozenPlan.make(@sequence, plan, at: @moment.now, account_id: account_id, anew: anew, words_only: words_only,
          only_later: only_later)
        data = {plan: plan.number, letters: (anew if anew.any?)}.compact
        SequenceEvents.append("plan_changed", @sequence.id, at: @moment.now, account_id: account_id, data: data)
      end

      # @return [Hash{Symbol=>Object}, nil]
      def proposal = @sequence.proposal&.transform_keys(&:to_sym)

      def under_way!(version)
        @sequence.lock!
        runs!
        return if @sequence.proposal_version == version

        raise Conflict.new("Somebody else has changed this proposal meanwhile.", hint: "Look at what they wrote, then go on.",
          data: {version: @sequence.proposal_version})
      end

      def clear = @sequence.update(proposal: nil, proposal_version: @sequence.proposal_version + 1, proposed_by_id: nil, proposed_at: nil)

      def said_of(step) = step.values.slice(:letter_id, :lane_id, :settings, :other, *Records::Step::TIMING, :on_date, :weekdays)

      # @return [Array] all that a proposal can change
      def as_laid_out =
        [@sequence.tree { |step| {"other" => step.other} }, *@sequence.values.values_at(:leave_on, :leave_if, :ends_at)]

      def next_number = @sequence.plans_dataset.max(:number) + 1

      def write(input, half_made:)
        columns = input.slice(:leave_on, :leave_if)
        LeavingCondition.check(columns[:leave_if], @moment)
        columns[:ends_at] = PlanSequence.time(input[:ends_at]) if input.key?(:ends_at)
        @sequence.update(columns) if columns.any?
        LayOut.new(@sequence, @moment, half_made: half_made).call(input[:steps]) if input[:steps]
        raise Invalid.new("There is no step left in it.", at: "steps") if @sequence.refresh.steps.empty?
        return if half_made

        wanting = unsaid.first or return
        raise Invalid.new("Step #{wanting[0].position + 1} waits for something: #{wanting[1]}.", code: :half_made, at: "steps",
          hint: "Say it, or take the step out.")
      end
    end
  end
end
