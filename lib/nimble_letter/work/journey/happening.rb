# frozen_string_literal: true

module NimbleLetter
  module Work
    # Appends one event and lets it take effect: the member's status climbs, the person's record follows, and an answer
    # stops every sequence that person is in. Doing it twice appends two events, but for a "no" to one letter; other callers that may
    # be repeated (mail taken in, pixels fetched) guard against that themselves.
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
      # @param of [Hash] sequence_id, step_id and member_id it is about, when it is about no letter
      # @param moment [Moment, nil] at that time, when the caller has one
      def self.call(kind, at:, person_id:, delivery: nil, member: nil, of: {}, moment: nil, **event)
        about = delivery ? {delivery_id: delivery.id, **delivery.values.slice(:sequence_id, :step_id, :letter_id, :member_id)} : of
        Records.db.transaction { new({kind: kind, occurred_at: at, person_id: person_id, **about, **event}, member, moment).call }
      end

      # @param event [Hash] of COLUMNS, data as a Hash
      def initialize(event, member, moment)
        @event = {by_machine: false, **event, data: event[:data] && JSON.generate(event[:data])}
        @kind, @at, @person_id = event.values_at(:kind, :occurred_at, :person_id)
        @member, @moment = member, moment
      end

      def call
        return append(@event) if @event[:by_machine]
        return if RULES.marks(@kind).any? && said_already?

        append(@event, climb)
        mark_person
        move_members
        hear
        # It is said for every record with this address.
        NoAtAddress.follow_people([@person_id], moment) if RULES.marks(@kind).any?
      end

      private

      # What marks a person is said under everybody's eyes: of several at the same moment the second sees the first. A "no" to one letter
      # is one, however often a mail program or a reader says it.
      def said_already?
        Records::AddressTurns.take_of([@person_id])
        RULES.once?(@kind) && @event[:delivery_id] && Records::Event.where(kind: @kind, delivery_id: @event[:delivery_id]).any?
      end

      def moment = @moment ||= Moment.new(now: @at)

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

      # Of the letter itself, when all members are locked: whoever writes to letters locks their members first.
      def hear
        heard = Core::Results::Heard.bits(@kind)
        return unless @event[:delivery_id] && heard.positive?

        Records::Delivery.where(id: @event[:delivery_id]).update(heard: Sequel[:heard].sql_number | heard)
      end

      def climb
        member = own_member or return
        MemberStatus.climb(member, @kind, ladder: moment.ladder_of(member.sequence_id), at: @at).tap { member.save_changes unless @member }
      end

      def own_member =
        @member || (@own_member ||= @event[:member_id] && Records::Member.dataset.for_update.first(id: @event[:member_id]))

      # It may take somebody out, or into the lane that waits for it: the journey is asked at once.
      def move_members
        members = RULES::KINDS.key?(@kind) ? concerned : []
        return if members.empty?

        members.group_by { |member| [member.sequence_id, member.plan] }.each do |(sequence_id, number), some|
          halted = Records::Sequence.where(id: sequence_id).get(:state) != "running"
          Onward.new(moment.plan_of(sequence_id, number), sequence_id, moment, heard: true, halted: halted).call(some)
        end
      end

      # A conversion belongs to one sequence; an answer or a "no" is about all of them.
      def concerned
        return Records::Member.active.where(person_id: @person_id).order(:id).for_update.all if RULES.everywhere?(@kind)

        member = own_member
        waits = member && (RULES.ends?(@kind) || %w[reaction outcome].include?(member.waits_for))
        (waits && member.state == "active") ? [member] : []
      end
    end
  end
end
