# frozen_string_literal: true

module NimbleLetter
  module Work
    # When an act is undone, the members it took out of their sequences come back: those it removed or put in the bin by their own entries
    # (RecordState), those who left because of the "no" it set by this. A sequence that ended because of an act reopens.
    module ComeBack
      # By what a "no" takes people out.
      SAID_NO = [NoAtAddress::REASON, BlockAddress::REASON].freeze
      KEEPS_OUT = [*NoAtAddress::KEYS, RecordState::BIN].freeze

      # @param set [Records::ChangeSet] that is being undone
      # @param entries [Array<Records::ChangeEntry>] of this slice of it
      # @return what the block returns; in it the slice is undone
      def self.around(set, entries, moment)
        out = out_by_undone(set, entries)
        opened = reopen(out, moment)
        result = yield
        Standing.bring_back(may_go_on(set, out, opened).select_map(:id), moment)
        # Nobody may have come back after all.
        opened.each { |id| Ending.check(id, at: moment.now) }
        result
      end

      # @return [Sequel::Dataset] members who are out because of the act
      def self.out_by(set) = Records::Member.where(left_set: set.id, state: "left")

      # @return [Sequel::Dataset] members who are out because of the act, or of another one at the same addresses that was undone
      #   while this one still kept them out
      def self.out_by_undone(set, entries)
        return out_by(set) unless keeps_out?(set, entries)

        at = Records::SameAddress.column
        addresses = Records::Person.where(id: entries.map(&:person_id)).select(at)
        undone = undone_sets.where { upto_event >= set.since_event }
        others = {left_set: undone, state: "left", person_id: Records::Person.where(at => addresses).select(Sequel[:people][:id])}
        Records::Member.where(Sequel.|({id: out_by(set).select(:id)}, {id: Records::Member.where(others).select(:id)}))
      end
      private_class_method :out_by_undone

      # @return [Boolean] whether anybody may be out because of what is undone here
      def self.keeps_out?(set, entries) = set.kind == "merge" || entries.any? { |one| KEEPS_OUT.intersect?(one.after.to_h.keys) }
      private_class_method :keeps_out?

      # Those who left because of a "no", at any record with that address, and may be written to now; and in sequences that open again,
      # those whose act was undone while these had ended.
      # @param opened [Array<Integer>] sequences
      def self.may_go_on(set, out, opened)
        free = Records::Person.kept.where(no_at_address: false, address_blocked: false)
        said = out.where(left_reason: SAID_NO)
        # A membership may have gone back to a record that this act did not put in the bin.
        because = Sequel.|({left_set: undone_sets}, {left_set: set.id, left_reason: "in_the_bin"})
        waiting = Records::Member.where(because).where(state: "left", sequence_id: opened)
        either = Sequel.|({id: said.select(:id)}, {id: waiting.select(:id)})
        Records::Member.where(either).where(person_id: free.select(Sequel[:people][:id]))
      end
      private_class_method :may_go_on

      def self.undone_sets = Records::ChangeSet.where(state: "undone").select(:id)
      private_class_method :undone_sets

      # @return [Array<Integer>] sequences that go on
      def self.reopen(out, moment)
        ended = Records::Sequence.where(id: out.select(:sequence_id), state: "ended")
        ended.order(:id).for_update.all.select { |one| by_an_act?(one) }.map { |one| run_again(one, moment).id }
      end
      private_class_method :reopen

      def self.by_an_act?(sequence)
        return false if sequence.ends_at && sequence.ends_at <= sequence.ended_at

        ended = Records::SequenceEvent.where(sequence_id: sequence.id, kind: "ended").order(Sequel.desc(:id)).first
        !ended&.data&.[]("set").nil?
      end
      private_class_method :by_an_act?

      def self.run_again(sequence, moment)
        sequence.update(state: "running", ended_at: nil, version: sequence.version + 1)
        SequenceEvents.append("reopened", sequence.id, at: moment.now, account_id: moment.account&.id)
        sequence
      end
      private_class_method :run_again
    end
  end
end
