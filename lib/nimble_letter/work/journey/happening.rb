# frozen_string_literal: true

module NimbleLetter
  module Work
    # Appends one event and lets it take effect: the member's status climbs, the person's record follows, and an answer
    # stops every sequence that person is in. Doing it twice appends two events; callers that may be
    # repeated (mail taken in, pixels fetched) guard against that themselves.
    class Happening
      RULES = Core::Journey::Happenings
      COLUMNS = %i[kind person_id occurred_at sequence_id step_id letter_id delivery_id member_id account_id by_machine data].freeze

      # @param kind [String]
      # @param at [Time]
      # @param person_id [Integer]
      # @param delivery [Records::Delivery, nil] the letter it answers
      # @param account_id [Integer, nil] the colleague who did it
      # @param by_machine [Boolean] a scanner's open is kept but never counted as a person's
      # @param data [Hash]
      # @param member [Records::Member, nil] of the delivery, when the caller has locked it already; the caller saves it then
      def self.call(kind, at:, person_id:, delivery: nil, account_id: nil, by_machine: false, data: nil, member: nil)
        Records.db.transaction { new(kind, at, person_id, delivery, account_id, by_machine, data, member).call }
      end

      def initialize(kind, at, person_id, delivery, account_id, by_machine, data, member)
        @member = member
        @kind, @at, @person_id, @delivery, @account_id, @by_machine, @data = kind, at, person_id, delivery, account_id, by_machine, data
      end

      def call
        return append(event) if @by_machine

        append(event, (climb if @delivery))
        mark_person
        stop_memberships if RULES.ends?(@kind)
        # It is said for every record with this address.
        NoAtAddress.follow_people([@person_id], Moment.new(now: @at)) if RULES.marks(@kind).any?
      end

      private

      def event
        {
          kind: @kind,
          person_id: @person_id,
          occurred_at: @at,
          sequence_id: @delivery&.sequence_id,
          step_id: @delivery&.step_id,
          letter_id: @delivery&.letter_id,
          delivery_id: @delivery&.id,
          member_id: @delivery&.member_id,
          account_id: @account_id,
          by_machine: @by_machine,
          data: @data && JSON.generate(@data)
        }
      end

      # In one statement: a letter that goes out appends two.
      def append(*events)
        Records.db[:events].import(
          COLUMNS,
          events.compact.map { |one| COLUMNS.map { |column| one.fetch(column) { (column == :by_machine) ? false : nil } } }
        )
      end

      def mark_person
        changes = RULES.marks(@kind)
        changes = changes.merge(last_activity_at: @at, last_activity_kind: @kind) if RULES.reaction?(@kind)
        Records.db[:people].where(id: @person_id).update(changes) if changes.any?
      end

      def climb
        member = @member || Records::Member.dataset.for_update.first(id: @delivery.member_id) or return
        MemberStatus.climb(member, @kind, at: @at).tap { member.save_changes unless @member }
      end

      def stop_memberships
        members = Records::Member.active.where(person_id: @person_id).for_update.all
        # A conversion belongs to one sequence; an answer or a "no" is about all of them.
        members.select! { |member| member.id == @delivery&.member_id } unless RULES.everywhere?(@kind)
        members.each do |member|
          Leaving.call(member, @kind, at: @at) if member.sequence.plan.leaves_on?(@kind)
        end
      end
    end
  end
end
