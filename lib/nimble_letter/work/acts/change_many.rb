# frozen_string_literal: true

module NimbleLetter
  module Work
    # Does one act to many records, in slices that are each whole: interrupted anywhere, it goes on where it stood, and
    # nobody is changed twice. Few are done at once; many go on in the background (Clerk).
    module ChangeMany
      SLICE = 500
      # Of an act or an import: what it made on the way, see Unmake.
      MADE = "made"
      # So many are done before the answer is given.
      AT_ONCE = 1000

      # @param act [Act]
      # @param people [Sequel::Dataset]
      # @return [Records::ChangeSet]
      def self.start(act, people, moment:)
        set = Records.db.transaction do
          new_tags = act.new_tags
          act.wanted # says what is wrong with it before anything is written
          made =
            Records::ChangeSet.create(
              kind: "bulk",
              words: "…",
              act: act.json.merge(new_tags.any? ? {MADE => {"tags" => new_tags.map { |name| Records::Tag.named(name).id }}} : {}),
              state: "waiting",
              account_id: moment.account&.id,
              created_at: moment.now
            )
          Records.db[:change_entries].insert(
            %i[change_set_id person_id],
            people.unordered.select(Sequel.lit("?", made.id), Sequel[:people][:id])
          )
          count = made.entries_dataset.count
          raise Invalid.new("Nobody is chosen.", at: "people", hint: "Choose people first.") if count.zero?

          made.update(total: count, words: act.words(count)[0, 300])
        end
        (AT_ONCE / SLICE).times { round(set, moment) }
        set.refresh
      end

      # One slice of an open act, of doing or of taking back.
      # @return [Boolean] whether there was something to do
      def self.round(set, moment)
        Records.db.transaction do
          set = Records::ChangeSet.where(id: set.id).unfinished.for_update.skip_locked.first or next false
          (set.state == "undoing") ? TakeBack.round(set, moment) : slice(set, moment)
          true
        end
      end

      def self.slice(set, moment)
        entries = set.entries_dataset.where(state: "waiting").order(:person_id).limit(SLICE).all
        if entries.any?
          moment = moment.because_of(set.id)
          handle(set, entries.map(&:person_id), Act.new(set.act, moment).wanted, moment)
        end
        left = set.entries_dataset.where(state: "waiting").any?
        set.update(handled: set.handled + entries.size, **(left ? {} : {state: "done", ended_at: moment.now}))
      end
      private_class_method :slice

      def self.handle(set, ids, wanted, moment)
        state = RecordState.new(moment)
        changed, before = state.change(ids, wanted)
        note(set, state.settled(changed), before, moment)
        note_held(set, before.except(*changed.keys), wanted)
      end
      private_class_method :handle

      # What was so already holds by this act too: it stays so when the act is undone that had made it so (UndoneEntry).
      def self.note_held(set, before, wanted)
        before.group_by { |_, held| held.slice(*same(wanted, held)) }.each do |held, pairs|
          next if held.empty?

          json = JSON.generate(held)
          set.entries_dataset.where(person_id: pairs.map(&:first)).update(before: json, after: json)
        end
      end
      private_class_method :note_held

      # @return [Array<String>] keys, with those of what goes with them
      def self.same(wanted, held) = Core::Fields::GoingWith.add(wanted.select { |key, value| held[key] == value }, nil).keys
      private_class_method :same

      def self.note(set, changed, before, moment)
        set.entries_dataset.where(person_id: before.keys - changed.keys).update(state: "nothing")
        rows = changed.map { |id, after| [set.id, id, "done", JSON.generate(before[id].slice(*after.keys)), JSON.generate(after)] }
        columns = %i[change_set_id person_id state before after]
        Records.db[:change_entries].on_duplicate_key_update(:state, :before, :after).import(columns, rows) if rows.any?
        RecordEvents.append(changed, before, moment: moment, account_id: set.account_id, by: set.kind)
      end
      private_class_method :note
    end
  end
end
