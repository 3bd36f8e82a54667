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

      def initialize(lease_seconds:)
        @lease_seconds, @lease = lease_seconds, SecureRandom.uuid
      end

      # @param moment [Work::Moment]
      # @param upto [Time] due by then
      # @param mailbox_id [Integer, nil] from there only
      # @return [Array<Records::Delivery>, nil] claimed by this worker, earliest first; nil when none was ready, and none of them when
      #   all that were have been put off
      def take(moment, limit:, upto: moment.now, mailbox_id: nil)
        ready = ready(moment, upto)
        ready = ready.where(mailbox_id: mailbox_id) if mailbox_id
        Records.db.transaction do
          rows = in_turn(ready, limit)
          next if rows.empty?

          # Two who take from one mailbox take turns, or each would fill up what is left of its day.
          Records::Mailbox.where(id: rows.map(&:mailbox_id).uniq).order(:id).for_update.select_map(:id)
          lease!(Admission.new(rows, moment, upto).call)
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

      # In a mailbox that cannot take all of them, who has heard from us already comes before first letters; then the older first.
      def in_turn(ready, limit)
        later = ready.where(follow_up: true).limit(limit).for_update.skip_locked.all
        left = limit - later.size
        left.zero? ? later : later + ready.where(follow_up: false).limit(left).for_update.skip_locked.all
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
