# frozen_string_literal: true

module NimbleLetter
  module Work
    # Makes members of people: they stand before the first step, with the event that they joined, and the journey carries them on
    # from there. The caller holds the sequence locked.
    class Enrol
      ONWARD = 2000 # members whose first decisions are in memory at once

      # @param sequence [Records::Sequence]
      # @param outlook [Outlook]
      # @param rows [Array<Prospect>] those of it who join
      # @param keep_status [Boolean] whoever was a member before goes on with the status they had
      # @param by [String] the rule they join by
      # @param rule_id [Integer, nil] of Records::JoinRule
      def initialize(sequence, outlook, moment, rows: outlook.rows, keep_status: false, by: "by_hand", rule_id: nil)
        @sequence, @outlook, @rows, @moment, @keep_status, @by, @rule_id = sequence, outlook, rows, moment, keep_status, by, rule_id
      end

      def call
        @rows = still_there
        members = insert_members
        insert_events(members)
        [Records::PersonalLine, Records::LetterFill].each { |written| written.join(plan.all.map(&:id), ids_by_person(members)) }
        halted = @sequence.state == "paused"
        people = @rows.to_h { |row| [row.person.id, row.person] }
        first = @rows.zip(members).filter_map { |row, member| [member.id, row.first] if row.first }.to_h
        members.each_slice(ONWARD) do |some|
          # Steps whose date is past or missing may have nobody left in it at once.
          Onward.new(plan, @sequence.id, @moment, people: people, halted: halted).call(some, first: first)
        end
      end

      private

      def plan = @outlook.plan

      # A record that somebody is putting in the bin at this moment joins nothing; one that joins first is taken out by the bin.
      def still_there
        there = Records::Person.hold(person_ids)
        @rows.select { |row| there.include?(row.person.id) }
      end

      # @return [Hash{Integer=>Records::Member}] the last membership so far, by person
      def before
        @before ||=
          Records::Member.where(sequence_id: @sequence.id, person_id: person_ids).order(:round).as_hash(:person_id)
      end

      def person_ids = @rows.map { |row| row.person.id }

      # @return [Array<Records::Member>] the new ones, in the order of the rows
      def insert_members
        first, since = @moment.ladder_of(@sequence.id).first, Records::Event.max(:id).to_i
        rows = @rows.map do |row|
          last = before[row.person.id]
          kept = (last if @keep_status)
          {
            sequence_id: @sequence.id, person_id: row.person.id, mailbox_id: row.mailbox.id, base: row.base, joined_at: row.base,
            status: kept ? kept.status : first, status_by_hand: kept ? kept.status_by_hand : false, round: last ? last.round + 1 : 1,
            step_id: plan.steps.first&.id, versions: versions_of(row.person.id), plan: plan.number, state: "active", waits_for: "time",
            since_event: since, joined_by: @by, rule_id: @rule_id
          }
        end
        rows.zip(Records::BulkInsert.ids(:members, rows)).map { |row, id| Records::Member.call(**BLANK, id: id, **row) }
      end

      # All that a new member has, so that it need not be read again.
      BLANK = {**Records::Member.columns.to_h { |name| [name, nil] }, moved: false}.freeze
      private_constant :BLANK

      def ids_by_person(members) = members.to_h { |member| [member.person_id, member.id] }

      def versions = @versions ||= @sequence.letter_steps.select(&:other).to_h { |step| [step.id, @outlook.versions(step)] }

      # @return [String, nil] as members keep them
      def versions_of(person_id)
        dealt = versions.transform_values { |by_person| by_person[person_id] }.compact
        JSON.generate(dealt) if dealt.any?
      end

      def insert_events(members)
        data = JSON.generate({plan: plan.number, by: @by, rule: @rule_id}.compact)
        Records::BulkInsert.call(:events, members.map { |member|
          {kind: "joined", person_id: member.person_id, occurred_at: @moment.now, sequence_id: @sequence.id, member_id: member.id,
           account_id: @moment.account&.id, data: data}
        })
      end
    end
  end
end
