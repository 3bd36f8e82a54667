# frozen_string_literal: true

module NimbleLetter
  module Work
    # Takes an act, an import or a merge back: each part of a record that still is as the act left it becomes what it was.
    # What somebody changed since is kept and counted. Taking back is itself in the histories.
    module TakeBack
      SLICE = 500
      MADE = "made"

      # @param set [Records::ChangeSet]
      # @raise [Invalid] when there is nothing to take back
      # @return [Records::ChangeSet]
      def self.start(set, moment:)
        return PartRecords.call(set, moment: moment) if set.kind == "merge"

        Records.db.transaction do
          set.lock!
          raise Invalid.new("This has been taken back already.", code: :undone_already) if %w[undoing undone].include?(set.state)

          if set.state == "running"
            raise Invalid.new("This is still being taken in.", code: :still_running, hint: "Take it back when it is done.")
          end

          # What has not been done yet is not done any more, and what was so already no longer holds by this act.
          set.entries_dataset.where(state: %w[waiting nothing]).update(state: "nothing", before: nil, after: nil)
          set.update(state: "undoing", handled: 0, kept: 0, total: set.entries_dataset.where(state: "done").count,
            upto_event: Records::Event.max(:id).to_i)
        end
        (ChangeMany::AT_ONCE / SLICE).times { ChangeMany.round(set, moment) }
        set.refresh
      end

      # One slice; the set is locked. Who leaves a sequence by it, since another act's "no" comes to light, is out by this one that is
      # undone, and comes back with the other (ComeBack).
      def self.round(set, moment)
        moment = moment.because_of(set.id)
        entries = set.entries_dataset.where(state: "done").order(:person_id).limit(SLICE).all
        kept = entries.any? ? restore(set, entries, moment) : 0
        left = set.entries_dataset.where(state: "done").any?
        set.update(handled: set.handled + entries.size, kept: set.kept + kept, **(left ? {} : {state: "undone", ended_at: moment.now}))
        unmake_others(set, moment) if !left && Unmake.concerns?(set)
      end

      def self.unmake_others(set, moment)
        stays = ComeBack.around(set, [], moment) { Unmake.new(set, moment).call }
        set.update(act: set.act.merge("stays" => stays))
      end
      private_class_method :unmake_others

      # @param entries [Array<Records::ChangeEntry>] some of this act's
      # @return [Integer] records of which something was kept as it is now
      def self.restore(set, entries, moment)
        state = RecordState.new(moment)
        made, changed = entries.partition { |entry| entry.after.key?(MADE) }
        kept = unmake(set, made, state, moment)
        keys = changed.flat_map { |entry| entry.after.keys }.uniq
        now_held = state.read(changed.map(&:person_id), keys)
        later = later(set, changed)
        said = SaidSince.of(changed.map(&:person_id), set)
        undone = changed.to_h do |entry|
          id = entry.person_id
          [id, UndoneEntry.new(entry, now_held.fetch(id), later.fetch(id, []), said: said.fetch(id, []))]
        end
        later.each_value { |entries| entries.each(&:save_changes) }
        back, stays = undone.transform_values(&:restores).reject { |_, values| values.empty? }, undone.select { |_, one| one.stays? }.keys
        ComeBack.around(set, changed, moment) { Records::Stirred.quietly { state.write(back) } }
        RecordEvents.append(back, now_held, moment: moment, by: "undo")
        mark(set, changed.map(&:person_id) - stays, "undone")
        mark(set, stays, "kept")
        kept + stays.size
      end

      # @return [Hash{Integer=>Array<Records::ChangeEntry>}] by person, what acts behind this one did to the same records, or would have
      #   done had it not been so already
      def self.later(set, entries)
        later = Records::ChangeEntry.where(person_id: entries.map(&:person_id), state: %w[done nothing]).where { change_set_id > set.id }
        later.exclude(before: nil).exclude(after: nil).order(:change_set_id).for_update.all.group_by(&:person_id)
      end
      private_class_method :later

      # A record an import made goes to the bin, unless somebody has worked on it since.
      def self.unmake(set, entries, state, moment)
        return 0 if entries.empty?

        ids = entries.map(&:person_id)
        versions = Records.db[:people].where(id: ids).select_hash(:id, :version)
        # Who joined by a rule since, and has had nothing, joined because of this file.
        joined = JoinedThrough.had_nothing(JoinedThrough.since(set, ids)).select(Sequel[:members][:id])
        busy = Records.db[:members].where(person_id: ids).exclude(id: joined).select_map(:person_id).to_set
        untouched, worked_on =
          entries.partition { |entry| versions[entry.person_id] == entry.after[MADE] && !busy.include?(entry.person_id) }
        state.write(untouched.to_h { |entry| [entry.person_id, {RecordState::BIN => true}] })
        unsay(untouched.map(&:person_id), moment)
        mark(set, untouched.map(&:person_id), "undone")
        mark(set, worked_on.map(&:person_id), "kept")
        worked_on.size
      end
      private_class_method :unmake

      # A "no" that came with the file goes with it: whoever takes the file back says so, and when.
      def self.unsay(ids, moment)
        said = Records::Person.where(id: ids).saying_no
        folds = said.select_map(:email_fold)
        said.update(do_not_mail: false, address_failed: false, consent: "unknown")
        NoAtAddress.follow(folds, moment)
      end
      private_class_method :unsay

      def self.mark(set, ids, state) = set.entries_dataset.where(person_id: ids).update(state: state)
      private_class_method :mark
    end
  end
end
