# frozen_string_literal: true

module NimbleLetter
  module Work
    # Who is out of a sequence because of an act that was undone, and does not come back with it: the sequence has ended for another
    # reason, or they may not be written to for another one. The undo names the sequences, so that nobody waits for it.
    module StaysOut
      REASONS = {"bin" => "in_the_bin", "restore" => "in_the_bin", "merge" => "merged", "take_out" => "taken_out"}.freeze

      # @param set [Records::ChangeSet]
      # @return [Integer] memberships
      def self.count(set) = members(set).count

      # @param set [Records::ChangeSet]
      # @return [Sequel::Dataset] of members
      def self.members(set)
        out = (set.state == "undone") ? [ComeBack.out_by(set).select(:id)] : []
        reason = reason(set)
        left = Records::Member.where(person_id: set.entries_dataset.select(:person_id), state: "left")
        out << left.where(left_reason: reason).select(:id) if reason
        return Records::Member.where(false) if out.empty?

        Records::Member.where(Sequel.|(*out.map { |ids| {id: ids} }))
          .exclude([:sequence_id, :person_id] => Records::Member.active.select(:sequence_id, :person_id))
      end

      # @return [Array<Hash>] name, state and people of the sequences they are out of
      def self.sequences(set)
        counts = members(set).group_and_count(:sequence_id).as_hash(:sequence_id, :count)
        Records::Sequence.where(id: counts.keys).order(:name).map { |one| {name: one.name, state: one.state, people: counts[one.id]} }
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
