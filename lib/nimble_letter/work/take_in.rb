# frozen_string_literal: true

module NimbleLetter
  module Work
    # Takes the rows of a checked file in, slice by slice. Each slice is one transaction that marks its rows as taken, so
    # that, killed anywhere, it goes on where it stood and takes no row twice.
    class TakeIn
      SLICE = 1000

      # @param import [Records::Import]
      def initialize(import, moment)
        @import, @moment = import, moment
      end

      # One slice.
      # @return [Boolean] whether there was something to do
      def round
        Records.db.transaction do
          @import = Records::Import.where(id: @import.id, state: "taking_in").for_update.skip_locked.first or next false
          @set = Records::ChangeSet.where(id: @import.change_set_id).for_update.first
          rows = waiting
          take(rows) if rows.any?
          finish if rows.size < SLICE
          true
        end
      end

      private

      def choices = @import.choices

      def waiting
        Records.db[:import_rows].where(import_id: @import.id, taken: false).where(verdict: verdicts).order(:number).limit(SLICE).all
      end

      def verdicts
        wanted = []
        wanted << "new" if choices["new"] == "take"
        wanted << "update" unless choices["update"] == "leave"
        wanted << "doubtful" unless choices["doubtful"] == "leave"
        # Put on everybody in the file, also on those who are the same.
        wanted << "same" if everybody.any?
        wanted
      end

      def everybody = @everybody ||= {"person.tags" => choices["tags"], "person.lists" => choices["lists"]}.reject { |_, names| names.nil? || names.empty? }

      def take(rows)
        rows.each { |row| row[:values] = with_everybodys(JSON.parse(row[:values])) }
        fresh, known = rows.partition { |row| row[:person_id].nil? || (row[:verdict] == "doubtful" && choices["doubtful"] == "new") }
        marks = ImportMarks.new(rows.map { |row| row[:values] }, @moment)
        made = ImportNew.new(marks, @moment).make(fresh.map { |row| row[:values] })
        ImportUpdate.new(marks, @moment, fill_only: choices["update"] == "fill").apply(known.map { |row| [row[:person_id], row[:values]] }, @set)
        note(fresh, made, known)
      end

      def with_everybodys(values) = everybody.inject(values) { |all, (key, names)| all.merge(key => (all.fetch(key, []) + names).uniq) }

      def note(fresh, made, known)
        made_json, before = JSON.generate(TakeBack::MADE => 1), JSON.generate({})
        Records::BulkInsert.call(:change_entries, made.map { |id| {change_set_id: @set.id, person_id: id, state: "done", before: before, after: made_json} })
        words = JSON.generate(words: @import.file_name)
        Records::BulkInsert.call(:events, made.map { |id| {kind: "imported", person_id: id, occurred_at: @moment.now, account_id: @set.account_id, data: words} })
        Records::BulkInsert.call(:import_rows, fresh.zip(made).map { |row, id| {import_id: @import.id, number: row[:number], verdict: row[:verdict], person_id: id, taken: true} },
          ending: " ON DUPLICATE KEY UPDATE person_id = VALUES(person_id), taken = TRUE")
        Records.db[:import_rows].where(import_id: @import.id, number: known.map { |row| row[:number] }).update(taken: true) if known.any?
        @set.update(handled: @set.handled + fresh.size + known.size)
      end

      def finish
        total = @set.entries_dataset.count
        @set.update(state: "done", total: total, ended_at: @moment.now)
        @import.update(state: "done", version: @import.version + 1, updated_at: @moment.now)
      end
    end
  end
end
