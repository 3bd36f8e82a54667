# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Post
    # Takes deliveries for one worker and gives back what a lost worker held. Several workers on several machines share the
    # table: SKIP LOCKED keeps them out of each other's way, and leases run on the database's own clock.
    class Claims
      # A letter that comes later than this (the post was held, the machine was off) waits for its window again.
      LATE_SECONDS = 20 * 60

      attr_reader :lease

      def initialize(lease_seconds:)
        @lease_seconds, @lease = lease_seconds, SecureRandom.uuid
      end

      # @param moment [Work::Moment]
      # @param upto [Time] due by then
      # @return [Array<Records::Delivery>] claimed by this worker, earliest first
      def take(moment, limit:, upto: moment.now)
        ready = Records::Delivery.ready(upto, running).exclude(Work::PostHold.dataset.select(1).exists)
        Records.db.transaction do
          rows = ready.limit(limit).for_update.skip_locked.all
          next rows if rows.empty?

          lease!(put_off(rows, moment))
        end
      end

      # What a lost worker had only claimed is due again; what it had on the wire is in doubt, and only a person can settle it.
      # @return [Array(Integer, Integer)] given back, in doubt
      def recover
        abandoned = Records::Delivery.abandoned(Records.server_time)
        return [0, 0] if abandoned.empty?

        [
          abandoned.where(state: "claimed").update(state: "due", lease: nil, leased_until: nil),
          abandoned.where(state: "on_wire").update(
            state: "in_doubt",
            lease: nil,
            leased_until: nil,
            reason: "The worker was lost while the letter was on the wire."
          )
        ]
      end

      # @return [Sequel::Dataset] this delivery, as long as it is this worker's
      def mine(delivery, state) = Records::Delivery.where(id: delivery.id, lease: lease, state: state)

      private

      # As numbers: with a subquery the server begins at the sequences and reads everything that is planned in them.
      def running = Records::Sequence.where(state: "running").select_map(:id)

      def lease!(rows)
        Records::Delivery.where(id: rows.map(&:id)).update(
          state: "claimed",
          lease: lease,
          leased_until: Sequel.lit("UTC_TIMESTAMP(6) + INTERVAL ? SECOND", @lease_seconds)
        )
        rows.each { |row| row.values.merge!(state: "claimed", lease: lease) }
      end

      # @return [Array<Records::Delivery>] those that may go now
      def put_off(rows, moment)
        limits = DailyLimits.new(moment)
        rows.select do |row|
          due = late_until(row, moment) || limits.full_until(row)
          Records::Delivery.where(id: row.id).update(due_at: due) if due
          due.nil?
        end
      end

      def late_until(row, moment)
        return if moment.now - row.due_at <= LATE_SECONDS

        again = Reopening.new(moment).for(row)
        again if again > moment.now
      end
    end
  end
end
