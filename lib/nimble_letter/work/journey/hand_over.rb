# frozen_string_literal: true

module NimbleLetter
  module Work
    # Puts all who have come to a hand-over into the other sequence. Whoever is in it already, or cannot be written to, is passed
    # by; who goes round in a circle is set aside.
    class HandOver
      # @param step [Core::Journey::Steps::HandOver]
      # @param members [Array<Records::Member>]
      # @param moment [Moment]
      def initialize(step, members, moment)
        @members, @moment = members, moment
        @other = Records::Sequence[step.sequence_id]
      end

      # @return [Hash{Integer=>String}] by member, why they did not join
      def call
        return all("sequence_not_running") unless @other&.under_way?

        ids = @members.map(&:person_id)
        circling = Circle.new(@other, @moment).among(ids)
        joined = join(ids - circling.to_a)
        @members.each_with_object({}) do |member, not_done|
          next not_done[member.id] = "circle" if circling.include?(member.person_id)

          not_done[member.id] = "cannot_join" unless joined.include?(member.person_id)
        end
      end

      private

      def all(reason) = @members.to_h { |member| [member.id, reason] }

      # By the sieve, as everybody who joins.
      # @return [Set<Integer>] people
      def join(ids)
        return Set.new if ids.empty?

        # As for everybody who joins: nobody is in it twice.
        @other.lock!
        ids = Again.new(@other, @moment, rule).among(ids) if rule
        outlook = Outlook.new(@other, @moment, audience: {"people" => ids}, joining: true)
        rows = outlook.rows.select(&:mailbox)
        Enrol.new(@other, outlook, @moment, rows: rows, by: "handed_over", rule_id: rule&.id).call if rows.any?
        rows.map { |row| row.person.id }.to_set
      end

      # Who may be handed over again; without a rule whoever is not in it.
      def rule = @rule ||= Records::JoinRule.first(sequence_id: @other.id, kind: "handed_over", live: true)
    end
  end
end
