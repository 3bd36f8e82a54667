# frozen_string_literal: true

module NimbleLetter
  module Web
    # One sequence with its plan laid out on days, as the ruler draws it.
    class SequenceJson
      # @param sequence [Records::Sequence]
      # @param changed [Hash{Integer=>String}, nil] "new" or "changed" by step, where it is written as colleagues propose it
      def initialize(sequence, moment, changed: nil)
        @sequence, @moment, @changed = sequence, moment, changed
      end

      # @param change [Work::ChangePlan]
      # @return [Hash] as it is proposed; as it is where nothing is
      def self.proposed(change, moment)
        change.as_proposed_with_marks { |sequence, marks| new(sequence, moment, changed: marks).write }
      end

      # @return [Hash] see Sequence in openapi.yaml
      def write
        {
          **@sequence.values.slice(:id, :name, :state, :version, :started_at, :ended_at, :updated_at, :start_at, :start_refused, :named),
          one_letter: Work::OneLetter.of?(@sequence),
          undo_seconds: Work::StartLater.undo_seconds(@sequence),
          audience: @sequence.audience,
          audience_words: audience_words,
          audience_said: audience&.said? || false,
          sender: @sequence.sender,
          sender_words: sender_words,
          leave_on: @sequence.leave_on,
          leave_if: @sequence.leave_if,
          leave_if_words: @sequence.leave_if && Work::Sentences.new(@moment).of(@sequence.leave_if),
          ends_at: @sequence.ends_at,
          steps: steps,
          notes: notes,
          sieve: sieve,
          days_off: days_off,
          proposal: proposal
        }
      end

      private

      def audience
        @audience ||= @moment.audience(@sequence.audience)
      rescue NotFound
        nil
      end

      def audience_words
        return "a filter that is gone" unless audience
        return "those who join by its rules" if !audience.said? && Records::JoinRule.where(sequence_id: @sequence.id).any?

        AudienceWords.short(audience)
      end

      def sender_words
        box = Records::Mailbox.where(id: @sequence.sender["mailbox_id"]).get(:address)
        {"owner" => "each person’s owner", "starter" => "whoever starts it"}.fetch(@sequence.sender["kind"], box || "no mailbox yet")
      end

      # Once started, the members are who it is for.
      def sieve
        return @sequence.members_dataset.count.then { |all| {matching: all, would_get_it: all} } unless @sequence.draft?
        return {matching: 0, would_get_it: 0} unless audience&.said?

        @sieve ||= {matching: audience.people.count, would_get_it: would_get_it.size}
      end

      # @return [Array<Hash>] those of the trunk, lanes within their forks
      def steps
        @dates = ruler.dates(joined)
        @first = @dates.values.min
        lanes = Records::Lane.where(fork_id: @sequence.steps.map(&:id)).as_hash(:id)
        @sequence.tree { |step| step(step) }.map { |step| finish(step, lanes) }
      end

      def notes =
        Records::PlanNote.where(sequence_id: @sequence.id).eager(:account).order(:id).all.map { |note| PlanNoteJson.write(note) }

      # @return [Hash, nil] of what is under way, and can be changed like this
      def proposal
        return unless @sequence.under_way?

        by = @sequence.proposed_by_id && Records::Account.where(id: @sequence.proposed_by_id).get(:name)
        {version: @sequence.proposal_version, proposed: !@sequence.proposal.nil?, by: by, at: @sequence.proposed_at}
      end

      def ruler = @ruler ||= Work::Ruler.new(plan, @moment, hours: Work::Sender.of(@sequence, @moment).hours(@moment.firm.zone))

      def joined = @sequence.started_at || @moment.now

      def step(step)
        date = @dates.fetch(step.id)
        {
          **step.values.slice(:id, :letter_id, :kind),
          **step.settings.to_h.except("within").transform_keys(&:to_sym),
          **step.timing_json,
          position: step.position + 1,
          headline: words.headline(step),
          only_for_words: only_for_words(step),
          goes_out: Work::TimingWords.say(step.timing, first: step.position.zero?),
          day: (date - @first).to_i,
          date: date,
          other: step.other,
          counts: counts(step),
          proposed: @changed&.[](step.id),
          **letter(step)
        }
      end

      def only_for_words(step)
        condition = step.settings&.[]("only_for") and Work::Sentences.new(@moment).of(condition)
      rescue Invalid
        "a condition that asks for what is gone"
      end

      def letter(step)
        letter = @moment.letter_of(step)
        body = letter&.document(:body, @moment.catalogue)
        subject = letter&.document(:subject, @moment.catalogue)
        {
          missing: unsaid.of(step, letter),
          letter: letter&.name,
          subject: subject&.summary,
          reading_minutes: body&.reading_minutes || 0,
          links: body&.links || 0,
          **gaps(step)
        }
      end

      def counts(step)
        return {"planned" => 0, "sent" => 0, "due" => 0, "here" => 0, "may" => 0} if @changed&.[](step.id) == "new"
        return {"sent" => 0, "due" => 0, "here" => 0, **to_come(step)} if @sequence.draft?

        accounting.of(step).slice("planned", "sent", "due", "here", "may")
      end

      # Everybody comes to what no lane leads away from; to the rest those who may.
      def to_come(step)
        @certain ||= plan.certainly(plan.steps.first&.id)
        return {"planned" => sieve[:would_get_it], "may" => 0} if @certain.include?(step.id)

        {"planned" => 0, "may" => on_paper.reaching(step.id)}
      end

      # Of a draft; what was started counts its members.
      def gaps(step)
        return {gaps: nil, gaps_at_most: false} unless @sequence.draft? && step.letter

        gaps = on_paper.gaps(step)
        {gaps: gaps.people, gaps_at_most: gaps.at_most}
      end

      def unsaid = @unsaid ||= Work::Unsaid.new(@moment)

      def on_paper = @on_paper ||= Work::OnPaper.new(@sequence, plan, would_get_it, @moment)

      def would_get_it = @would_get_it ||= audience&.said? ? sieving.would_get_it : []

      def sieving = @sieving ||= @moment.sieving(audience)

      def plan = @plan ||= @changed ? @sequence.laid_out(half_made: true) : @sequence.plan

      # Steps as the plan has them carry text keys besides; here each is said once, as the contract has it.
      def finish(step, lanes)
        said = step.select { |key, _| key.is_a?(Symbol) }
        return said unless step["kind"] == "fork"

        said.merge(within: step["within"], lanes: step["lanes"].map { |lane| lane(lane, lanes.fetch(lane["id"]), lanes) })
      end

      def lane(lane, record, lanes)
        {
          **record.values.slice(:id, :words, :comes_back),
          test: record.test,
          headline: words.lane(record),
          took: @sequence.draft? ? 0 : accounting.took(record.id),
          steps: lane["steps"].map { |step| finish(step, lanes) }
        }
      end

      def words = @words ||= Work::StepWords.new(@sequence, @moment)

      def accounting = @accounting ||= Work::Accounting.new(@sequence)

      def days_off = ruler.days_off(joined)
    end
  end
end
