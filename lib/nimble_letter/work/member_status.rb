# frozen_string_literal: true

module NimbleLetter
  module Work
    # Moves a member's status, by an event or by hand, and appends that it moved.
    module MemberStatus
      LADDER = Core::Statuses::Ladder.new

      # @param member [Records::Member] locked
      # @param event [String] event kind
      def self.climb(member, event, at:)
        status = LADDER.after(member.status, event)
        move(member, status, at: at, by_hand: false) unless status == member.status
      end

      # @raise [Invalid] when there is no such status
      def self.set(member, status, at:, account_id:)
        raise Invalid.new("There is no status #{status.inspect}.", at: "status", hint: "It is one of #{LADDER.rungs.map(&:key).join(", ")}.") unless LADDER.known?(status)

        Records.db.transaction do
          member.lock!
          move(member, status, at: at, by_hand: true, account_id: account_id)
        end
      end

      def self.move(member, status, at:, by_hand:, account_id: nil)
        Records.db[:events].insert(kind: "status_moved", person_id: member.person_id, occurred_at: at, sequence_id: member.sequence_id,
          member_id: member.id, account_id: account_id, data: JSON.generate(from: member.status, to: status, by_hand: by_hand))
        member.update(status: status, status_by_hand: by_hand)
      end
      private_class_method :move
    end
  end
end
