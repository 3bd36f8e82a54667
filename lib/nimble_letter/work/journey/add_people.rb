# frozen_string_literal: true

module NimbleLetter
  module Work
    # Adds people to a sequence that runs or is paused. Who is in it now is passed over; for who was in it before, it is
    # asked whether their status is kept, reset, or whether they stay out.
    class AddPeople
      AGAIN = %w[keep reset leave_out].freeze

      # @param sequence [Records::Sequence]
      # @param audience [Hash] see Records::Audience
      # @param again [String] one of AGAIN
      # @raise [Invalid]
      def initialize(sequence, audience, moment, again: "leave_out")
        unless sequence.under_way?
          raise Invalid.new("Only a sequence that runs or is paused takes people in.", code: :not_running)
        end
        raise Invalid.new("Say one of #{AGAIN.join(", ")}.", at: "again") unless AGAIN.include?(again)

        @sequence, @moment, @again = sequence, moment, again
        @outlook = Outlook.new(sequence, moment, audience: audience, joining: true)
      end

      # @return [Hash] sieve, and of those who would get it: new, and again by status; letters with a gap; without a mailbox
      def preview
        {
          sieve: @outlook.account,
          fresh: fresh.size,
          again: again_by_status,
          gaps: gaps,
          without_mailbox: rows.count { |row| row.mailbox.nil? },
          letters: rows.sum { |row| row.passage.size }
        }
      end

      # @param letters [Integer] the number that was read back
      # @param gaps [Integer] of these, letters that were said to wait until their gap is filled
      # @return [Integer] people who joined
      # @raise [Invalid, Conflict, Forbidden]
      def call(letters:, gaps: 0)
        Records.db.transaction do
          @sequence.lock!
          check(letters, gaps)
          @moment.fresh! if letters > Moment::MANY
          @moment.note("people_joined", about: "“#{@sequence.name}”, #{letters} letters", data: {sequence_id: @sequence.id})
          Enrol.new(@sequence, @outlook, @moment, rows: rows, keep_status: @again == "keep").call
        end
        rows.size
      end

      private

      def check(letters, gaps)
        now = preview
        moved("#{now[:letters]} letters", letters, now) unless now[:letters] == letters
        moved("#{now[:gaps]} with a gap", gaps, now) unless now[:gaps] == gaps
        raise Invalid.new("Nobody would join.", at: "audience") if rows.empty?
        if now[:without_mailbox].positive?
          raise Invalid.new("#{now[:without_mailbox]} would have no mailbox to come from.", code: :not_ready)
        end
      end

      def moved(now, read_back, preview)
        raise Conflict.new("It is #{now} now, not #{read_back}.", code: :numbers_moved, hint: "Read the new numbers, then add them.",
          data: preview.slice(:letters, :gaps))
      end

      # Those who would join as things stand.
      def rows = @rows ||= (@again == "leave_out") ? fresh : @outlook.rows

      def fresh = @outlook.rows.reject { |row| before.key?(row.person.id) }

      def before
        @before ||=
          Records::Member
            .where(sequence_id: @sequence.id, person_id: @outlook.ids)
            .order(:round)
            .select_hash(:person_id, :status)
      end

      def again_by_status
        before.values.tally.map { |status, count| {status: status, words: MemberStatus.of(@sequence).words(status), people: count} }
      end

      def gaps
        joining = rows.map { |row| row.person.id }.to_set
        @sequence.letter_steps.sum { |step| @outlook.gaps(step).keys.count { |id| joining.include?(id) } }
      end
    end
  end
end
