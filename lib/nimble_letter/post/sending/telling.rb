# frozen_string_literal: true

module NimbleLetter
  module Post
    # What follows from letters that were taken (events, statuses, the next step of their members), written for many together. Until
    # then they are on the wire for everybody else, and marked as accepted: a worker that is lost leaves nothing in doubt of them.
    class Telling
      AT_ONCE = 50
      SECONDS = 0.5 # nobody waits longer to be told

      # @param held [Sequel::Dataset] deliveries on the wire, as long as they are the caller's
      # @param patience [Records::Patience]
      # @param checkpoints [#reach]
      # @param clock [#call] seconds that only grow
      def initialize(held, patience, checkpoints = Checkpoints::NONE, clock: -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) })
        @held, @patience, @checkpoints, @clock = held, patience, checkpoints, clock
        @rows, @since = {}.compare_by_identity, nil
      end

      # @param row [Records::Delivery] of which it is written down that it was taken; a second time changes nothing
      # @param person [Records::Person] whose it is
      def add(row, person)
        @since ||= @clock.call
        @rows[row] = person
      end

      # @param moment [Work::Moment]
      def when_due(moment)
        now(moment) if @rows.size >= AT_ONCE || (@since && @clock.call - @since > SECONDS)
      end

      # @param moment [Work::Moment]
      def now(moment)
        told, @rows, @since = @rows, {}.compare_by_identity, nil
        told.each_key { |row| @checkpoints.reach(:taken, row) }
        tell(told.keys, moment, told.each_value.to_h { |person| [person.id, person] })
        told.each_key { |row| @checkpoints.reach(:told, row) }
      end

      # @param rows [Array<Records::Delivery>]
      # @param moment [Work::Moment]
      # @param people [Hash{Integer=>Records::Person}] those of them who have been read
      def tell(rows, moment, people = {})
        return if rows.empty?

        @patience.ride { Work::SentTogether.new(moment).call(rows, held: @held, people: people) }
      rescue *Records::Patience::AWAY
        raise
      rescue *Work::PutAside::OF_ONE_THING => error
        # One of them keeps the others: each is told alone.
        (rows.size == 1) ? alone(rows.first, error) : rows.each { |row| tell([row], moment, people.slice(row.person_id)) }
      end

      private

      # What follows from a letter that is out must not make it one that is not: it is sent, and its member set aside where they are.
      def alone(row, error)
        @patience.ride do
          Records.db.transaction do
            letter = @held.where(id: row.id, accepted: true)
            at = letter.for_update.get(:sent_at) or next
            letter.update(state: "sent", accepted: false, reason: nil, lease: nil, leased_until: nil)
            Work::Happening.call("sent", at: at, person_id: row.person_id, delivery: row)
            Work::PutAside.call("letter", row.id, error, at: at, delivery_id: row.id)
          end
        end
      end
    end
  end
end
