# frozen_string_literal: true

module NimbleLetter
  module Work
    # Takes a merge back: the record that stayed becomes what it was, part by part, as with any act (UndoneEntry), and the other record
    # comes back with the rows that were moved, wherever later merges have put them.
    class PartRecords
      # @param set [Records::ChangeSet] of a merge
      # @raise [Invalid] when it has been taken back already
      # @raise [Conflict] when one of the records has been emptied since
      # @return [Records::ChangeSet]
      def self.call(set, moment:) = new(set, moment).call

      def initialize(set, moment)
        @set, @moment = set, moment.because_of(set.id)
      end

      def call
        Records.db.transaction do
          @set.lock!
          raise Invalid.new("This has been taken back already.", code: :undone_already) if @set.state == "undone"

          take_records
          @set.update(state: "undoing", upto_event: Records::Event.max(:id).to_i)
          move_back
          put_back
          Standing.come_back(ended, "merged", @moment)
          @set.update(state: "undone", handled: 2, ended_at: @moment.now)
        end
        @set
      end

      private

      def act = @act ||= @set.act

      def take_records
        Records::AddressTurns.take_of(act.values_at("kept", "gone"))
        @kept, @gone = Records::Person.where(id: act.values_at("kept", "gone")).order(:id).for_update.all
          .to_h { |person| [person.id, person] }.values_at(*act.values_at("kept", "gone"))
        return unless [@kept, @gone].any?(&:emptied)

        raise Conflict.new(
          "One of the two records has been emptied since, as all are that stay in the bin for #{PutInBin::DAYS} days.",
          code: :emptied_since,
          hint: "What was moved stays where it is; change the record by hand."
        )
      end

      # @return [Sequel::Dataset] memberships that end by this merge, or by one that is undone already while this one held
      def ended
        undone = {left_set: Records::ChangeSet.where(state: "undone").select(:id), person_id: [@kept.id, @gone.id]}
        Records::Member.where(Sequel.|({id: act.fetch("ended", [])}, undone))
      end

      # The record that stayed may have become part of another one since.
      def holders = @holders ||= [@kept.id, *MergedSince.stayed([@kept.id]).values]

      def move_back
        MoveBack.new(@set, holders, @gone).call
        PickedPeople.take_back(@set, holders)
        LastHeard.read_again(holders | [@gone.id])
      end

      def put_back
        entries = @set.entries_dataset.order(:person_id).all
        entry = entries.find { |one| one.person_id == @kept.id }
        entry.before ? TakeBack.restore(@set, entries, @moment) : by_an_earlier_version(entries)
        if entry.before&.key?("person.consent") && @kept.refresh.consent == entry.before["person.consent"]
          Records.db[:people].where(id: @kept.id).update(consent_by_id: act["consent_by"])
        end
        # The one in use is no further one.
        @kept.refresh.other_addresses_dataset.where(email_fold: @kept.email_fold).delete
        NoAtAddress.mark_again([@kept.id, @gone.id], @moment)
        @set.update(kept: @set.entries_dataset.where(state: "kept").count)
      end

      # Merges used to keep the whole record as it was. What it became is not known, so nobody may have changed it since.
      def by_an_earlier_version(entries)
        unless @kept.version == act["version"]
          raise Conflict.new("Somebody has changed this record since it was merged.", code: :changed_since,
            hint: "What was moved can no longer be told apart; change the record by hand.")
        end
        columns = act["before"]["values"].except("search_fold", *Core::Sieve::FOLLOWING.map { |key| key.delete_prefix("person.") })
        Records.db[:people].where(id: @kept.id).update(**columns.transform_keys(&:to_sym), version: @kept.version + 1)
        act.fetch("sets", {}).each do |table, ids|
          Records.db[table.to_sym].where(:person_id => @kept.id, MergeRecords::SETS.fetch(table.to_sym) => ids).delete
        end
        Records::Person[@kept.id].save
        Records.db[:people].where(id: @gone.id).update(deleted_at: nil, version: Sequel[:version] + 1)
        entries.each { |one| one.update(state: "undone") }
      end
    end
  end
end
