# frozen_string_literal: true

module NimbleLetter
  module Work
    # Changes records that are there already by what rows of a file say of them, and notes what each was before.
    class ImportUpdate
      COMPANY = Core::Importing::Targets::COMPANY.key
      NOT_HERE = [COMPANY, "person.email", *Core::Sieve::FOLLOWING].freeze
      ADDRESSES, NOTE = Core::Importing::Targets::ADDRESSES.key, Core::Importing::Targets::NOTE.key

      # @param fill_only [Boolean] what stands in a record already stays
      def initialize(marks, moment, fill_only:)
        @marks, @moment, @fill_only = marks, moment, fill_only
        @state = RecordState.new(moment)
      end

      # @param rows [Array<Array(Integer, Hash)>] person's number and values
      # @param set [Records::ChangeSet]
      def apply(rows, set)
        wanted = rows.to_h { |id, values| [id, wanted(values)] }
        return if wanted.empty?

        note(rows, set)

        before = @state.read(wanted.keys, wanted.values.flat_map { |values| @state.keys_of(values) }.uniq)
        # A record may have gone since the file was checked.
        changed = wanted.slice(*before.keys).to_h { |id, values| [id, changes(values, before[id])] }.reject { |_, values| values.empty? }
        @state.write(changed)
        rows = changed.map { |id, after| [set.id, id, "done", JSON.generate(before[id].slice(*after.keys)), JSON.generate(after)] }
        Records.db[:change_entries].insert_ignore.import(%i[change_set_id person_id state before after], rows) if rows.any?
        RecordEvents.append(changed, before, moment: @moment, account_id: set.account_id, by: "import")
      end

      private

      # A note is part of the history and stays in it; what is noted already is not noted again.
      def note(rows, set)
        noting = rows.select { |_, values| values.key?(NOTE) }
        return if noting.empty?

        there = PersonNotes.folded(noting.map(&:first))
        fresh = noting.map { |id, values| [id, values[NOTE].reject { |text| there.fetch(id, []).include?(Core::Fold.call(text)) }] }
        PersonNotes.append(fresh, moment: @moment, account_id: set.account_id)
      end

      def wanted(values)
        state = values.select { |key, _| @state.field(key) && !NOT_HERE.include?(key) }
        state[COMPANY] = @marks.company(values)[:id] if values[COMPANY]
        @marks.tags(values).each { |id| state["tag:#{id}"] = true }
        @marks.lists(values).each { |id| state["list:#{id}"] = true }
        values.fetch(ADDRESSES, []).each { |email| state["#{RecordState::ADDRESS}#{email}"] = true }
        state
      end

      def changes(values, held)
        values = Core::Sieve.keeping_no(values, held)
        values = values.select { |key, value| held[key].nil? || held[key] == false || Core::Sieve.says_no?(key => value) } if @fill_only
        @state.changes(values, held)
      end
    end
  end
end
