# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who is out of a sequence by an act that has been taken back, and does not come back with it, because the sequence has ended
    # meanwhile. Said, so that nobody waits for it.
    module StaysOut
      REASONS = {"bin" => "in_the_bin", "restore" => "in_the_bin", "merge" => "merged", "take_out" => "taken_out"}.freeze

      # @param set [Records::ChangeSet]
      # @return [Integer] memberships
      def self.count(set) = members(set).count

      # @param set [Records::ChangeSet]
      # @return [Sequel::Dataset] of members
      def self.members(set)
        reason = reason(set) or return Records::Member.where(false)
        Records::Member
          .where(person_id: set.entries_dataset.select(:person_id), state: "left", left_reason: reason)
          .exclude([:sequence_id, :person_id] => Records::Member.active.select(:sequence_id, :person_id))
      end

      # @return [String, nil] nil as long as the act holds, or when it ends no membership
      def self.reason(set)
        kind = (set.kind == "merge") ? "merge" : set.act&.[]("kind")
        REASONS[kind] if set.state == ((kind == "restore") ? "done" : "undone")
      end
      private_class_method :reason
    end
  end
end
