# frozen_string_literal: true

module NimbleLetter
  module Work
    # Moves a member's status, by an event or by hand, and appends that it moved.
    module MemberStatus
      # @param sequence [Records::Sequence]
      # @return [Core::Statuses::Ladder]
      def self.of(sequence) = of_sequences([sequence.id])[sequence.id]

      # @return [Hash{Integer=>Core::Statuses::Ladder}] by sequence
      def self.of_sequences(ids) = Records::StatusSet.ladders(ids)

      # @return [Array<Core::Statuses::Ladder::Rung>] of all sets, each key once
      def self.all
        sets = Records::StatusSet.order(:id).all.map(&:ladder)
        (sets.empty? ? [Core::Statuses::Ladder.new] : sets).flat_map(&:rungs).uniq(&:key)
      end

      # Moves it without saving: whoever has locked the member saves all that changes at once.
      # @param member [Records::Member] locked
      # @param event [String] event kind
      # @param ladder [Core::Statuses::Ladder]
      # @return [Hash, nil] the event to append, when it moved
      def self.climb(member, event, ladder:, at:)
        status = ladder.after(member.status, event)
        move(member, status, at: at, by_hand: false) unless status == member.status
      end

      # @raise [Invalid] when there is no such status
      def self.set(member, status, at:, account_id:)
        known!(member.sequence, status)
        Records.db.transaction do
          member.lock!
          Records.db[:events].insert(move(member, status, at: at, by_hand: true, account_id: account_id))
          member.save_changes
        end
      end

      # @param people [Array<Integer>] whose membership that is, or was last, gets it
      # @return [Integer] those that had another
      # @raise [Invalid] when there is no such status
      def self.set_many(sequence, people, status, moment:)
        known!(sequence, status)
        Records.db.transaction do
          newest = Records::Member.where(sequence_id: sequence.id, person_id: people).order(:round).select_hash(:person_id, :id)
          members = Records::Member.where(id: newest.values).exclude(status: status, status_by_hand: true).order(:id).for_update.all
          events = members.map { |member| move(member, status, at: moment.now, by_hand: true, account_id: moment.account&.id) }
          Records::BulkInsert.call(:events, events)
          Records::Member.where(id: members.map(&:id)).update(status: status, status_by_hand: true)
          members.size
        end
      end

      def self.known!(sequence, status)
        ladder = of(sequence)
        return if ladder.known?(status)

        raise Invalid.new("There is no status #{status.inspect}.", at: "status",
          hint: "It is one of #{ladder.rungs.map(&:key).join(", ")}.")
      end
      private_class_method :known!

      # Sets it without saving.
      # @return [Hash] the event to append
      def self.move(member, status, at:, by_hand:, account_id: nil)
        data = JSON.generate(from: member.status, to: status, by_hand: by_hand)
        member.set(status: status, status_by_hand: by_hand)
        {
          kind: "status_moved",
          person_id: member.person_id,
          occurred_at: at,
          sequence_id: member.sequence_id,
          member_id: member.id,
          account_id: account_id,
          data: data
        }
      end
    end
  end
end
