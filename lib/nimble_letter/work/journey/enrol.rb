# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Work
    # Makes members of people: each with the first letter as a delivery with its time, and the event that they joined.
    # The caller holds the sequence locked.
    class Enrol
      SLICE = 500 # rows an INSERT; keeps packets small

      # @param sequence [Records::Sequence]
      # @param outlook [Outlook]
      # @param rows [Array<Outlook::Row>] those of it who join
      # @param keep_status [Boolean] whoever was a member before goes on with the status they had
      def initialize(sequence, outlook, moment, rows: outlook.rows, keep_status: false)
        @sequence, @outlook, @rows, @moment, @keep_status = sequence, outlook, rows, moment, keep_status
      end

      def call
        insert_members
        insert_deliveries
        insert_events
      end

      private

      # @return [Hash{Integer=>Records::Member}] the last membership so far, by person
      def before
        @before ||=
          Records::Member.where(sequence_id: @sequence.id, person_id: @rows.map { |row| row.person.id }).order(:round).as_hash(:person_id)
      end

      def insert_members
        columns = %i[sequence_id person_id mailbox_id base joined_at status status_by_hand round step_id versions plan state]
        first = MemberStatus::LADDER.first
        rows = @rows.map do |row|
          last = before[row.person.id]
          kept = (last if @keep_status)
          [
            @sequence.id,
            row.person.id,
            row.mailbox.id,
            @moment.now,
            @moment.now,
            kept ? kept.status : first,
            kept ? kept.status_by_hand : false,
            last ? last.round + 1 : 1,
            row.passage.first&.first&.id,
            versions_of(row.person.id),
            plan.number,
            row.passage.empty? ? "finished" : "active"
          ]
        end
        Records.db[:members].import(columns, rows, slice: SLICE)
        # The newest membership of each.
        @member_ids =
          Records.db[:members]
            .where(sequence_id: @sequence.id, person_id: @rows.map { |row| row.person.id })
            .order(:round)
            .select_hash(:person_id, :id)
      end

      def insert_deliveries
        columns = %i[key member_id sequence_id step_id person_id letter_id mailbox_id state due_at version]
        rows = @rows.reject { |row| row.passage.empty? }.map do |row|
          step, due = row.passage.first
          version = versions.fetch(step.id, {})[row.person.id]
          [
            SecureRandom.urlsafe_base64(16),
            @member_ids.fetch(row.person.id),
            @sequence.id,
            step.id,
            row.person.id,
            letter_id(step.id, version),
            row.mailbox.id,
            "due",
            due,
            version
          ]
        end
        Records.db[:deliveries].import(columns, rows, slice: SLICE)
      end

      def steps = @steps ||= @sequence.steps.to_h { |step| [step.id, step] }

      def versions = @versions ||= steps.transform_values { |step| @outlook.versions(step) }

      # @return [String, nil] as members keep them
      def versions_of(person_id)
        dealt = versions.transform_values { |by_person| by_person[person_id] }.compact
        JSON.generate(dealt) if dealt.any?
      end

      def letter_id(step_id, version) = (@letter_ids ||= {})[[step_id, version]] ||= steps[step_id].letter_of(version).id

      def plan = @outlook.plan

      # Steps whose time cannot come for them, before the first that can; all of them may be such.
      def passed_by(row)
        first = row.passage.first&.first
        steps = plan.steps.take_while { |step| step.id != first&.id }
        skipped = steps.map { |step| event("skipped", row, {reason: "no_time"}).merge(step_id: step.id, letter_id: step.letter_id) }
        first ? skipped : [*skipped, event("finished", row, nil)]
      end

      def event(kind, row, data)
        {
          kind: kind,
          person_id: row.person.id,
          occurred_at: @moment.now,
          sequence_id: @sequence.id,
          member_id: @member_ids.fetch(row.person.id),
          account_id: @moment.account&.id,
          data: data && JSON.generate(data)
        }
      end

      def insert_events
        rows = @rows.flat_map { |row| [event("joined", row, {plan: plan.number}), *passed_by(row)] }
        Records::BulkInsert.call(:events, rows)
      end
    end
  end
end
