# frozen_string_literal: true

module NimbleLetter
  module Work
    # People of whom a live rule has become true join its sequence: by the sieve, as everybody who joins, and as often as the rule lets
    # them. Whoever would have a gap in a letter, or no mailbox to hear from, waits and is shown.
    class JoinPeople
      # @param rule [Records::JoinRule]
      def initialize(rule, moment)
        @rule, @moment = rule, moment
      end

      # Within a transaction of the caller's.
      # @param ids [Array<Integer>]
      # @return [Array<Integer>] those of whom nothing more is to be asked: they have joined, or may not join again
      def call(ids)
        return [] if ids.empty?

        # Before the sequence: putting somebody in the bin locks the record first, and then the sequences they are in.
        Records::Person.hold(ids)
        return [] unless sequence.under_way?

        may = Again.new(sequence, @moment, @rule).among(ids)
        may -= Circle.new(sequence, @moment).among(may).to_a
        (ids - may) + enrol(may)
      end

      private

      # Locked, so that nobody is in it twice.
      def sequence = @sequence ||= Records::Sequence.for_update.first(id: @rule.sequence_id)

      # @return [Array<Integer>] those who joined
      def enrol(ids)
        return [] if ids.empty?

        outlook = Outlook.new(sequence, @moment, audience: {"people" => ids}, joining: true, guard: false)
        waiting = waiting(outlook)
        rows = outlook.rows.reject { |row| waiting.key?(row.person.id) }
        keep(ids, waiting)
        Enrol.new(sequence, outlook, @moment, rows: rows, by: @rule.kind, rule_id: @rule.id).call if rows.any?
        rows.map { |row| row.person.id }
      end

      # @return [Hash{Integer=>Array(String, String)}] by person, the reason, and fields that are empty
      def waiting(outlook)
        boxless = outlook.rows.reject(&:mailbox).to_h { |row| [row.person.id, ["no_mailbox", nil]] }
        gaps = sequence.letter_steps.flat_map { |step| outlook.gaps(step).to_a }.group_by(&:first)
        boxless.merge(gaps.transform_values { |all| ["gap", all.flat_map(&:last).uniq.join(",")[0, 500]] })
      end

      def keep(ids, waiting)
        @rule.waits.where(person_id: ids - waiting.keys).delete
        return if waiting.empty?

        there = @rule.waits.where(person_id: waiting.keys).select_map(:person_id)
        rows = (waiting.keys - there).map { |id|
          reason, fields = waiting[id]
          {rule_id: @rule.id, person_id: id, reason: reason, fields: fields, since: @moment.now}
        }
        Records::BulkInsert.call(:join_waits, rows)
      end
    end
  end
end
