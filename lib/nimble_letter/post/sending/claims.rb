# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Post
    # Takes deliveries for one worker and gives back what a lost worker held. Several workers on several machines share the
    # table: SKIP LOCKED keeps them out of each other's way, and leases run on the database's own clock.
    class Claims
      # A letter on the wire is its lane's for longer than any mail server is waited for (SmtpTransport::PATIENCE), so that
      # nobody calls in doubt what is still being talked about.
      ON_WIRE_SECONDS = 240

      attr_reader :lease

      # @return [Sequel::LiteralString] an instant by the database's own clock
      def self.from_now(seconds) = Sequel.lit("UTC_TIMESTAMP(6) + INTERVAL ? SECOND", seconds)

      # @param gate [#call] given the instant, within the transaction of a claim; false: nothing is claimed
      def initialize(lease_seconds:, gate: ->(_now) { true })
        @lease_seconds, @gate, @lease = lease_seconds, gate, SecureRandom.uuid
      end

      # @param moment [Work::Moment]
      # @param upto [Time] due by then
      # @param mailbox_id [Integer, nil] from there only
      # @return [Array<Records::Delivery>, nil] claimed by this worker, earliest first; nil when none was ready, and none of them when
      #   all that were have been put off
      def take(moment, limit:, upto: moment.now, mailbox_id: nil)
        Records.db.transaction do
          next unless @gate.call(moment.now)

          # One process at a time takes from a mailbox, whatever their number: its order and its pace are one. Letters are read once
          # it is this one's turn.
          boxes = mailbox_id ? [mailbox_id] : mailboxes(moment, upto: upto)
          Records::Mailbox.where(id: boxes).order(:id).for_update.select_map(:id)
          ready = ready(moment, upto)
          rows = boxes.flat_map { |id| in_turn(ready.where(mailbox_id: id), limit, upto) }
          next if rows.empty?

          lease!(Admission.new(rows, moment, upto, limit: limit).call)
        end
      end

      # @return [Array<Integer>] mailboxes that have letters to send now
      def mailboxes(moment, upto: moment.now) = ready(moment, upto).unordered.distinct.select_map(:mailbox_id)

      # Nobody else takes what is claimed here while the block works on it.
      def keeping(&work)
        LeaseKeeper.new(@lease_seconds) { claimed.update(leased_until: Claims.from_now(@lease_seconds)) }.while_working(&work)
      end

      # What was claimed and shall not go now after all is anybody's again.
      def give_back(rows)
        Records::Delivery.where(id: rows.map(&:id), lease: lease, state: "claimed").update(state: "due", lease: nil, leased_until: nil)
      end

      # What a lost worker had only claimed is due again; what it had on the wire is in doubt, and only a person can settle it; of what
      # was taken all that follows is told.
      # @return [Array(Integer, Integer)] given back, in doubt
      def recover
        abandoned = Records::Delivery.abandoned(Records.server_time)
        return [0, 0] if abandoned.empty?

        [
          abandoned.where(state: "claimed").update(state: "due", lease: nil, leased_until: nil),
          tell(abandoned.where(state: "on_wire", accepted: true)) && abandoned.where(state: "on_wire", accepted: false).update(
            state: "in_doubt",
            lease: nil,
            leased_until: nil,
            reason: "The worker was lost while the letter was on the wire."
          )
        ]
      end

      # @return [Sequel::Dataset] this delivery, as long as it is this worker's
      def mine(delivery, state) = Records::Delivery.where(id: delivery.id, lease: lease, state: state)

      # @return [Sequel::Dataset] this worker's
      def on_wire = Records::Delivery.where(lease: lease, state: "on_wire")

      private

      # Each from the time at which it left.
      # @return [true]
      def tell(taken)
        telling = Telling.new(taken, Records::Patience.new)
        taken.order(:id).all.group_by(&:sent_at).each do |at, rows|
          rows.each_slice(Telling::AT_ONCE) { |some| telling.tell(some, Work::Moment.new(now: at)) }
        end
        true
      end

      # Found without a lock and then locked by their numbers: a search that locks also holds, for a moment, letters of other mailboxes
      # that it passes over, and a claim from those would skip them.
      # @return [Array<Records::Delivery>] the first of those who have heard from us, and of others
      def in_turn(ready, limit, upto)
        ids = [true, false].flat_map { |follow_up| ready.where(follow_up: follow_up).limit(limit).select_map(:id) }
        rows = ids.empty? ? [] : Records::Delivery.where(id: ids).for_update.skip_locked.all
        rows.select { |row| row.state == "due" && row.due_at <= upto }.sort_by { |row| [row.due_at, row.id] }
      end

      def claimed = Records::Delivery.where(lease: lease, state: "claimed")

      def ready(moment, upto)
        ready = Records::Delivery.ready(upto, running).exclude(Work::PostHold.dataset.select(1).exists)
        kept = Records::Mailbox.resting(moment.now).select_map(:id) | Records::Mailbox.waiting(upto).select_map(:id)
        kept.empty? ? ready : ready.exclude(mailbox_id: kept)
      end

      # As numbers: with a subquery the server begins at the sequences and reads everything that is planned in them.
      def running = Records::Sequence.where(state: "running").select_map(:id)

      def lease!(rows)
        Records::Delivery.where(id: rows.map(&:id)).update(
          state: "claimed",
          lease: lease,
          leased_until: Claims.from_now(@lease_seconds)
        )
        rows.each { |row| row.values.merge!(state: "claimed", lease: lease) }
      end
    end
  end
end
