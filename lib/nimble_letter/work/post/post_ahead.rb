# frozen_string_literal: true

module NimbleLetter
  module Work
    # What goes out in the next two days, for the post strip: letters per half hour, and the next batch in words.
    class PostAhead
      HOURS = 48
      BIN_SECONDS = 30 * 60
      BATCH_SECONDS = 3 * 3600 # letters this close together read as one batch

      def initialize(moment) = @moment = moment

      # @return [Hash] bins (at, letters), next batch (at, letters, mailboxes) or nil, and the hold
      def call
        from, to = @moment.now, @moment.now + HOURS * 3600
        bins = written(from, to).merge(LaterLetters.new(@moment).bins(to, BIN_SECONDS)) { |_, one, other| one + other }
        {
          now: @moment.now,
          hours: HOURS,
          bins: bins.sort.map { |bin, letters| {at: Time.at(bin * BIN_SECONDS).utc, letters: letters} },
          late: ahead.where { due_at < from }.count,
          next: batch,
          held: PostHold.current,
          in_doubt: Records::Delivery.where(state: "in_doubt").count
        }
      end

      # @return [Sequel::Dataset] of people, those of the next batch
      def people = Records::Person.where(Sequel[:people][:id] => next_letters&.select(:person_id) || [])

      private

      # @return [Hash{Integer=>Integer}] letters that are written down, by bin
      def written(from, to)
        bin = Sequel.function(:floor, Sequel.function(:unix_timestamp, :due_at) / BIN_SECONDS)
        ahead.where(due_at: from..to).group_and_count(bin.as(:bin)).to_h { |row| [row[:bin].to_i, row[:count]] }
      end

      def ahead
        running = Records::Sequence.where(state: "running").select(:id)
        Records::Delivery.where(state: %w[due claimed], sequence_id: running).not_waiting
      end

      def batch
        letters = next_letters or return
        {at: first_due, letters: letters.count, mailboxes: letters.distinct.select(:mailbox_id).count}
      end

      def next_letters = first_due && ahead.where(due_at: first_due..(first_due + BATCH_SECONDS))

      def first_due
        @first_due ||= begin
          now = @moment.now
          ahead.where { due_at >= now }.min(:due_at)
        end
      end
    end
  end
end
