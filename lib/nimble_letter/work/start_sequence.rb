# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Work
    # Starts a sequence: everybody who would get it becomes a member, and every letter becomes a delivery with its time.
    # Running it twice does nothing the second time: only a draft can start.
    class StartSequence
      SLICE = 500 # rows an INSERT; keeps packets small

      # @param sequence [Records::Sequence]
      # @param version [Integer] as the person saw it
      # @param letters [Integer] the number that was read back to them
      # @raise [Invalid] when something is missing; [Conflict] when the numbers moved meanwhile
      def self.call(sequence, version:, letters:, moment:) = new(sequence, version, letters, moment).call

      def initialize(sequence, version, letters, moment)
        @sequence, @version, @letters, @moment = sequence, version, letters, moment
      end

      def call
        Records.db.transaction do
          @sequence.lock!
          check
          insert_members
          insert_deliveries
          insert_events
          @sequence.update(state: "running", started_at: @moment.now, updated_at: @moment.now, version: @sequence.version + 1)
        end
        @sequence
      end

      private

      def check
        raise Invalid.new("This sequence has been started already.", code: :not_a_draft) unless @sequence.draft?
        raise Conflict.new("Somebody changed this sequence meanwhile.", hint: "Look at it again, then start it.") unless @sequence.version == @version

        ready = ReadyCheck.new(@sequence, @moment)
        verdict = ready.call
        unless verdict[:ready]
          raise Invalid.new("Something is missing before this can start.", code: :not_ready, data: {remarks: verdict[:remarks]})
        end
        if verdict[:letters] != @letters
          raise Conflict.new("It is #{verdict[:letters]} letters now, not #{@letters}.", code: :numbers_moved, hint: "Read the new numbers, then start.", data: {letters: verdict[:letters]})
        end
        @outlook = ready.outlook
      end

      def insert_members
        columns = %i[sequence_id person_id mailbox_id base joined_at status]
        first = MemberStatus::LADDER.first
        rows = @outlook.rows.map { |row| [@sequence.id, row.person.id, row.mailbox.id, @moment.now, @moment.now, first] }
        Records.db[:members].import(columns, rows, slice: SLICE)
        @member_ids = Records.db[:members].where(sequence_id: @sequence.id).select_hash(:person_id, :id)
      end

      def insert_deliveries
        columns = %i[key member_id sequence_id step_id person_id letter_id mailbox_id state due_at]
        rows = @outlook.rows.flat_map do |row|
          row.passage.each_with_index.map do |(step, due), i|
            [SecureRandom.urlsafe_base64(16), @member_ids.fetch(row.person.id), @sequence.id, step.id, row.person.id, step.letter_id, row.mailbox.id, i.zero? ? "due" : "ahead", due]
          end
        end
        Records.db[:deliveries].import(columns, rows, slice: SLICE)
      end

      def insert_events
        rows = @outlook.rows.map { |row| ["joined", row.person.id, @moment.now, @sequence.id, @member_ids.fetch(row.person.id), @moment.account&.id] }
        Records.db[:events].import(%i[kind person_id occurred_at sequence_id member_id account_id], rows, slice: SLICE)
      end
    end
  end
end
