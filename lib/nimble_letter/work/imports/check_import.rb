# frozen_string_literal: true

module NimbleLetter
  module Work
    # Goes through a file and notes of each row what taking it in would do. Writes to no record. Interrupted, it begins
    # anew; done twice, it comes to the same.
    class CheckImport
      SLICE = 1000
      MOST_ROWS = 500_000
      LOCK = "nimble_import_"
      # Verdicts of rows that come in without anybody's word.
      COMES_IN = %w[new update same].freeze

      # @param import [Records::Import]
      # @param folder [String]
      def initialize(import, folder, moment)
        @import, @folder, @moment = import, folder, moment
      end

      # @return [Boolean] false when another clerk is at it
      def call
        Records.db.synchronize do
          return false unless Records.db.get(Sequel.function(:get_lock, "#{LOCK}#{@import.id}", 0)) == 1

          go_through if @import.refresh.state == "checking"
          true
        rescue Files::Unreadable => error
          @import.update(state: "failed", problem: [error.message, error.hint].compact.join(" ")[0, 500], updated_at: @moment.now)
          true
        ensure
          Records.db.get(Sequel.function(:release_lock, "#{LOCK}#{@import.id}"))
        end
      end

      private

      def go_through
        Records.db[:import_rows].where(import_id: @import.id).delete
        @counts, @seen, @rows = Hash.new(0), {}, 0
        file = Files.open(@import.path(@folder), @import.format, @import.reading)
        file.each_row.each_slice(SLICE) { |rows| slice(rows) }
        @import.update(
          state: "checked",
          counts: @counts,
          choices: (@import.choices || {}).merge("unknown_owners" => reading.unknown_owners),
          rows: @rows,
          version: @import.version + 1,
          updated_at: @moment.now
        )
      end

      def slice(rows)
        @rows += rows.size
        if @rows > MOST_ROWS
          raise Files::Unreadable.new("This file has more than #{MOST_ROWS} rows.", hint: "Bring it in as several files.")
        end

        read = rows.map { |number, cells| [number, cells, reading.read(cells)] }
        judge = ImportJudge.new(read.map { |_, _, row| row.values }, @moment)
        noted = read.map { |number, cells, row| note(number, cells, row, judge) }
        Records::BulkInsert.call(:import_rows, noted)
        # So that the screen sees it move.
        @import.update(rows: @rows, counts: @counts)
      end

      def reading
        @reading ||= Core::Importing::RowReading.new(
          @import.matching.map { |match| match["field"] },
          catalogue: @moment.catalogue,
          taking: @moment.taking(ReceiveImport.habit(@import.reading)),
          owners: (@import.choices || {}).fetch("owners", {}),
          name_order: @import.reading["name_order"]
        )
      end

      def note(number, cells, row, judge)
        verdict, person_id, reason, changes =
          row.problem ? ["refused", nil, row.problem, nil] : (twice(number, row) || judge.verdict(row.values))
        @counts[verdict] += 1
        # Rows that come in but for a value come back too, so that it can be mended.
        reason = [reason, *row.left_out].compact.join(" ") if verdict != "refused" && row.left_out.any?
        partly = COMES_IN.include?(verdict) && row.left_out.any?
        @counts["partly"] += 1 if partly
        kept = partly || !COMES_IN.include?(verdict)
        {
          import_id: @import.id,
          number: number,
          verdict: verdict,
          person_id: person_id,
          reason: reason&.slice(0, 300),
          values: JSON.generate(stored(row.values)),
          changes: changes && JSON.generate(changes.transform_values { |pair| pair.map { |value| ImportJudge.json(value) } }),
          cells: (JSON.generate(cells.map { |cell| cell.is_a?(String) ? cell.scrub("�") : cell }) if kept)
        }
      end

      # One address twice in a file: the first row counts, the second comes back.
      def twice(number, row)
        fold = Core::Fold.call(row.values["person.email"]) or return
        first = @seen[fold]
        return ["refused", nil, "The address is in line #{first} of this file already.", nil] if first

        @seen[fold] = number
        nil
      end

      def stored(values) = values.transform_values { |value| ImportJudge.json(value) }
    end
  end
end
