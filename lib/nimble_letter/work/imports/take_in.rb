# frozen_string_literal: true

module NimbleLetter
  module Work
    # Takes the rows of a checked file in, slice by slice. Each slice is one transaction that also marks it as done, so that,
    # killed anywhere, it goes on where it stood and takes no row twice. Several clerks may take slices of one file at once.
    class TakeIn
      SLICE = 1000

      # @return [Integer] rows that are in. Counted from the slices: a counter that all of them moved would have clerks wait
      #   for each other, and at times for ever.
      def self.handled(import) = Records.db[:import_slices].where(import_id: import.id, done: true).sum(:rows).to_i

      # @param import [Records::Import]
      # @return [Sequel::Dataset] of the people its rows were taken in for, those among them who were the same already
      def self.people(import)
        entries = Records::ChangeEntry.where(change_set_id: import.change_set_id).select(:person_id)
        same = Records.db[:import_rows].where(import_id: import.id, verdict: "same").select(:person_id)
        Records::Person.where(Sequel.|({Sequel[:people][:id] => entries}, {Sequel[:people][:id] => same}))
      end

      # @param import [Records::Import]
      def initialize(import, moment)
        @import, @moment = import, moment.because_of(import.change_set_id)
      end

      # One slice.
      # @return [Boolean] whether there was something to do
      def round
        return false unless prepared?

        Records.db.transaction do
          slice = slices.where(done: false).order(:first).for_update.skip_locked.first or next finish
          take(rows(slice[:first]..slice[:last]))
          slices.where(first: slice[:first]).update(done: true)
          true
        end
      end

      private

      def choices = @import.choices

      def set_id = @import.change_set_id

      def slices = Records.db[:import_slices].where(import_id: @import.id)

      # What several slices share is made once, before the first: companies, tags, lists, and the slices themselves.
      # @return [Boolean] false when another clerk is at it
      def prepared?
        return true if slices.any?

        Records.db.transaction do
          @import = Records::Import.where(id: @import.id, state: "taking_in").for_update.skip_locked.first or next false
          next true if slices.any?

          numbers = wanted.order(:number).select_map(:number)
          marks = ImportMarks.new([], @moment)
          numbers.each_slice(SLICE) { |some| marks.learn(rows(some.first..some.last).map { |row| row[:values] }) }
          note_made(marks.made)
          made =
            numbers
              .each_slice(SLICE)
              .map { |some| {import_id: @import.id, first: some.first, last: some.last, rows: some.size, done: false} }
          made << {import_id: @import.id, first: 0, last: 0, rows: 0, done: true} if made.empty?
          Records::BulkInsert.call(:import_slices, made)
          true
        end
      end

      # So that they go again when the file is taken back, see Unmake.
      # @param made [Hash{String=>Array<Integer>}]
      def note_made(made) = @import.change_set.update(act: (@import.change_set.act || {}).merge("made" => made))

      def wanted = Records.db[:import_rows].where(import_id: @import.id, verdict: verdicts)

      def verdicts
        wanted = []
        wanted << "new" if choices["new"] == "take"
        wanted << "update" unless choices["update"] == "leave"
        wanted << "doubtful" unless choices["doubtful"] == "leave"
        # Put on everybody in the file, also on those who are the same.
        wanted << "same" if everybody.any?
        wanted
      end

      def everybody =
        @everybody ||=
          {"person.tags" => choices["tags"], "person.lists" => choices["lists"]}.reject { |_, names| names.nil? || names.empty? }

      def rows(numbers)
        rows = wanted.where(number: numbers).order(:number).select(:number, :verdict, :person_id, :values).all
        rows.each { |row| row[:values] = with_everybodys(JSON.parse(row[:values])) }
      end

      def with_everybodys(values) = everybody.inject(values) { |all, (key, names)| all.merge(key => (all.fetch(key, []) + names).uniq) }

      def take(rows)
        take_turns(rows)
        rows = judged_again(rows)
        fresh, known = rows.partition { |row| row[:person_id].nil? || (row[:verdict] == "doubtful" && choices["doubtful"] == "new") }
        marks = ImportMarks.new(rows.map { |row| row[:values] }, @moment)
        made = ImportNew.new(marks, @moment).make(fresh.map { |row| row[:values] })
        ImportUpdate.new(marks, @moment, fill_only: choices["update"] == "fill").apply(
          MergedSince.follow(known.map { |row| [row[:person_id], row[:values]] }),
          @import.change_set
        )
        note(made)
        ImportNoes.new(@import, @moment).listed(rows.map { |row| row[:values] })
      end

      # Somebody, or another file, may have brought people in since this file was checked. Rows alike in this file stay apart, as checked.
      def judged_again(rows)
        fresh = rows.select { |row| row[:verdict] == "new" }
        judge = ImportJudge.new(fresh.map { |row| row[:values] }, @moment)
        found = fresh.to_h { |row| [row, judge.verdict(row[:values])] }.reject { |_, (verdict, _)| verdict == "new" }
        made = Records::ChangeEntry.where(change_set_id: set_id, person_id: found.values.map { |_, id| id }).select_map(:person_id)
        found.each { |row, (verdict, id, reason, changes)| note_verdict(row, verdict, id, reason, changes) unless made.include?(id) }
        rows.select { |row| verdicts.include?(row[:verdict]) }
      end

      def note_verdict(row, verdict, id, reason, changes)
        row.update(verdict: verdict, person_id: id)
        changes &&= JSON.generate(changes.transform_values { |pair| pair.map { |value| ImportJudge.json(value) } })
        noted = {verdict: verdict, person_id: id, changes: changes, **(reason ? {reason: reason, cells: cells(row[:values])} : {})}
        Records.db[:import_rows].where(import_id: @import.id, number: row[:number]).update(noted)
      end

      # The file itself has been read; what comes back for somebody to mend is what was read of it.
      # @return [String] JSON, a cell for each column
      def cells(values)
        name = values.values_at("person.title", "person.first_name", "person.last_name").compact.join(" ")
        values = values.merge(Core::Importing::Targets::NAME.key => name)
        cells = @import.matching.map { |match| values[match["field"]] }
        JSON.generate(cells.map { |cell| cell.is_a?(Array) ? Core::Importing::WordsInACell.write(cell) : cell })
      end

      # Clerks who bring in people need not wait for each other, only where a row says "no".
      def take_turns(rows)
        folds = rows.map { |row| Core::Fold.call(row[:values]["person.email"]) }
        folds += Records::Person.where(id: rows.filter_map { |row| row[:person_id] }).select_map(:email_fold)
        Records::AddressTurns.take(folds, shared: rows.none? { |row| ImportNoes.says_no?(row[:values]) })
      end

      def note(made)
        made_json, before = JSON.generate(TakeBack::MADE => 1), JSON.generate({})
        Records::BulkInsert.call(
          :change_entries,
          made.map { |id| {change_set_id: set_id, person_id: id, state: "done", before: before, after: made_json} }
        )
        words = JSON.generate(words: @import.file_name)
        Records::BulkInsert.call(
          :events,
          made.map { |id| {kind: "imported", person_id: id, occurred_at: @moment.now, account_id: @import.account_id, data: words} }
        )
      end

      # Done when every slice is; one that another clerk holds is not done yet.
      # @return [Boolean]
      def finish
        return false if slices.where(done: false).any?

        import = Records::Import.where(id: @import.id, state: "taking_in").for_update.first or return false
        ImportNoes.new(@import, @moment).said(wanted)
        set = Records::ChangeSet[set_id]
        set.update(state: "done", total: set.entries_dataset.count, handled: slices.sum(:rows), ended_at: @moment.now)
        verdicts = Records.db[:import_rows].where(import_id: import.id).group_and_count(:verdict).as_hash(:verdict, :count)
        counts = (import.counts || {}).slice("partly").merge(verdicts)
        import.update(state: "done", counts: counts, version: import.version + 1, updated_at: @moment.now)
        true
      end
    end
  end
end
