# frozen_string_literal: true

module NimbleLetter
  module Work
    # Puts all who have come to a hand-over into the other sequence. Whoever is in it already, or cannot be written to, is passed
    # by; who goes round in a circle is set aside.
    class HandOver
      # So often within a day nobody means it.
      CIRCLE = 3
      DAY = 86_400

      # @param step [Core::Journey::Steps::HandOver]
      # @param members [Array<Records::Member>]
      # @param moment [Moment]
      def initialize(step, members, moment)
        @members, @moment = members, moment
        @other = Records::Sequence[step.sequence_id]
      end

      # @return [Hash{Integer=>String}] by member, why they did not join
      def call
        return all("sequence_not_running") unless @other && %w[running paused].include?(@other.state)

        circling = circling()
        wanted = @members.reject { |member| circling.include?(member.person_id) }
        joined = join(wanted.map(&:person_id))
        @members.each_with_object({}) do |member, not_done|
          next aside(member) && not_done[member.id] = "circle" if circling.include?(member.person_id)

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
        outlook = Outlook.new(@other, @moment, audience: {"people" => ids}, joining: true)
        rows = outlook.rows.select(&:mailbox)
        Enrol.new(@other, outlook, @moment, rows: rows, by: "handed_over").call if rows.any?
        rows.map { |row| row.person.id }.to_set
      end

      def circling
        Records::Member
          .where(sequence_id: @other.id, person_id: @members.map(&:person_id))
          .where(Sequel[:joined_at] > @moment.now - DAY)
          .group_and_count(:person_id).having { count.function.* >= CIRCLE }.select_map(:person_id).to_set
      end

      def aside(member)
        words = "#{Records::Person[member.person_id].name} joined “#{@other.name}” #{CIRCLE} times within a day: going round in a circle."
        PutAside.call("journey", "circle #{@other.id} #{member.person_id}", words, at: @moment.now)
        true
      end
    end
  end
end
