# frozen_string_literal: true

module NimbleLetter
  module Post
    # Writes in one statement, and so in one commit, that a letter was taken and that the next one goes: between two letters there is
    # one round trip. The last look at what may keep a letter back is part of it: the hold, the pause, the mailbox, the member, a "no".
    class Departure
      # @param claims [Claims]
      # @param load [Load]
      def initialize(claims, load)
        @claims, @load = claims, load
        @looks = {}
      end

      # Saying it again, after an answer that was lost, says the same.
      # @param row [Records::Delivery, nil] that is to go
      # @param taken [Records::Delivery, nil] that was taken
      # @return [Boolean] whether the next one may go
      def call(row, taken)
        changed = Records.db.execute_dui(statement(row, taken))
        return !row.nil? if changed == [row, taken].compact.size

        !row.nil? && @claims.mine(row, "on_wire").any?
      end

      private

      def statement(row, taken)
        parts = [(going(row) if row), ("(id = #{taken.id} AND state = 'on_wire')" if taken)].compact.join(" OR ")
        # Each value is told by the number of its row; what is set first is not asked for later.
        "UPDATE deliveries SET #{[*(values(row) if row), *("accepted = IF(id = #{taken.id}, 1, accepted)" if taken)].join(", ")} " \
          "WHERE id IN (#{[row, taken].compact.map(&:id).join(", ")}) AND lease = #{literal(@claims.lease)} AND (#{parts})"
      end

      def values(row)
        {
          attempts: Sequel.lit("attempts + 1"),
          leased_until: Claims.from_now(Claims::ON_WIRE_SECONDS),
          sent_at: @load.departure(row),
          state: "on_wire",
          **@load.standing(row)
        }.map { |name, value| "#{name} = IF(id = #{row.id}, #{literal(value)}, #{name})" }
      end

      def going(row) = "(id = #{row.id} AND state = 'claimed' AND #{look(@load.departure(row))})"

      # The same for all that go at one time.
      def look(at)
        @looks[at] ||= begin
          letters =
            Records::Delivery
              .exclude(Work::PostHold.dataset.select(1).exists)
              .exclude(mailbox_id: Records::Mailbox.resting(at).select(:id))
              .where(sequence_id: Records::Sequence.where(state: "running").select(:id))
              .going
              .where(person_id: @load.barred.allowed)
          literal(letters.opts[:where])
        end
      end

      def literal(value) = Records::Delivery.dataset.literal(value)
    end
  end
end
