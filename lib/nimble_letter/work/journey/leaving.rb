# frozen_string_literal: true

module NimbleLetter
  module Work
    # Takes a member out: what has not reached the wire is skipped with the reason, and the sequence ends with its last member.
    module Leaving
      # @param member [Records::Member] locked
      # @param reason [String] event kind that takes them out
      # @param cause [Integer, nil] the act it follows from, see Moment#cause
      # @return [Boolean] false when the member was out already
      def self.call(member, reason, at:, account_id: nil, cause: nil)
        return false unless member.state == "active"

        Records.db.transaction do
          member.update(state: "left", left_reason: reason, left_set: cause, due_at: nil, waits_for: nil)
          called_back = Records::Delivery.where(member_id: member.id, state: Records::Delivery::CALLED_BACK)
          called_back.update(state: "skipped", reason: reason, lease: nil, leased_until: nil)
          # Nobody is to be asked whether a letter shall be tried again that is not wanted any more.
          Records::SetAside.where(kind: AdvanceMembers::KIND, key: member.id.to_s).delete
          Records::SetAside.where(kind: "letter", delivery_id: Records::Delivery.where(member_id: member.id).select(:id)).delete
          # What the sequence waited for is nobody's task any more; what it had somebody do besides stays.
          Records.db[:tasks].where(member_id: member.id, step_id: member.step_id, state: "open")
            .update(state: "dropped", reason: reason, version: Sequel[:version] + 1, updated_at: at)
          Records.db[:events].insert(
            kind: "left",
            person_id: member.person_id,
            occurred_at: at,
            sequence_id: member.sequence_id,
            member_id: member.id,
            account_id: account_id,
            data: JSON.generate({reason: reason, set: cause}.compact)
          )
          Ending.check(member.sequence_id, at: at)
        end
        true
      end
    end
  end
end
