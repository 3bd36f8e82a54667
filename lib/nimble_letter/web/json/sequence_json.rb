# frozen_string_literal: true

module NimbleLetter
  module Web
    # One sequence with its plan laid out on days, as the ruler draws it.
    class SequenceJson
      def initialize(sequence, moment)
        @sequence, @moment = sequence, moment
      end

      # @return [Hash] see Sequence in openapi.yaml
      def write
        {
          **@sequence.values.slice(:id, :name, :state, :version, :started_at, :ended_at, :updated_at),
          audience: @sequence.audience,
          audience_words: audience_words,
          sender: @sequence.sender,
          sender_words: sender_words,
          leave_on: @sequence.leave_on,
          steps: steps,
          sieve: sieve,
          days_off: days_off
        }
      end

      private

      def audience
        @audience ||= @moment.audience(@sequence.audience)
      rescue NotFound
        nil
      end

      def audience_words = audience ? AudienceWords.short(audience) : "a filter that is gone"

      def sender_words
        box = Records::Mailbox.where(id: @sequence.sender["mailbox_id"]).get(:address)
        (@sequence.sender["kind"] == "owner") ? "each person’s owner" : box || "no mailbox yet"
      end

      # Once started, the members are who it is for.
      def sieve
        return {matching: @sequence.members_dataset.count, would_get_it: @sequence.members_dataset.count} unless @sequence.draft?
        return {matching: 0, would_get_it: 0} unless audience&.said?

        @moment.sieving(audience).account.slice(:matching, :would_get_it)
      end

      def steps
        dates = Work::Ruler.new(@sequence.plan, @moment).dates(@sequence.started_at || @moment.now)
        accounting = Work::Accounting.new(@sequence)
        gaps = @sequence.draft? ? gaps_by_step : {}
        @sequence.steps.zip(dates).map { |step, date| step(step, date, dates.first, accounting.of(step), gaps) }
      end

      def step(step, date, first, counts, gaps)
        {
          **step.values.slice(:id, :letter_id),
          **step.timing_json,
          goes_out: Work::TimingWords.say(step.timing, first: step.position.zero?),
          letter: step.letter&.name,
          subject: step.letter&.document(:subject)&.summary,
          day: (date - first).to_i,
          date: date,
          reading_minutes: step.letter&.document(:body)&.reading_minutes || 0,
          links: step.letter ? step.letter.document(:body).links : 0,
          gaps: gaps[step.id],
          other: step.other,
          counts: {
            planned: @sequence.draft? ? sieve[:would_get_it] : counts["planned"],
            sent: counts["sent"],
            due: counts["due"],
            here: counts["here"]
          }
        }
      end

      def gaps_by_step
        return {} unless (outlook = Work::ReadyCheck.new(@sequence, @moment).outlook)

        outlook.gaps_by_step.transform_keys(&:id)
      end

      def days_off = Work::Ruler.new(@sequence.plan, @moment).days_off(@sequence.started_at || @moment.now)
    end
  end
end
