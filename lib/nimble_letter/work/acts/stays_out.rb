# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who is out of a running sequence by an act that has been taken back: the bin and a merge end memberships, and a record
    # that is back does not go on by itself. Said, so that somebody adds them again.
    module StaysOut
      REASONS = {"bin" => "in_the_bin", "restore" => "in_the_bin", "merge" => "merged"}.freeze

      # @param set [Records::ChangeSet]
      # @return [Integer] memberships
      def self.count(set) = members(set).count

      # @param set [Records::ChangeSet]
      # @return [Sequel::Dataset] of members
      def self.members(set)
        reason = reason(set) or return Records::Member.where(false)
        Records::Member
          .where(person_id: set.entries_dataset.select(:person_id), state: "left", left_reason: reason)
          .where(sequence_id: Records::Sequence.where(state: %w[running paused]).select(:id))
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
