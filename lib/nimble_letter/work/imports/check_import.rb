# frozen_string_literal: true

module NimbleLetter
  module Work
    # Goes through a file and notes of each row what taking it in would do. Writes to no record. It is checked piece by piece,
    # by as many clerks as there are; each piece is one transaction, so that, killed anywhere, it goes on where it stood.
    class CheckImport
      # Verdicts of rows that come in without anybody's word.
      COMES_IN = %w[new update same].freeze

      # @return [Integer] rows that are checked by now
      def self.checked(import) = Records.db[:import_pieces].where(import_id: import.id).exclude(found: nil).sum(:rows).to_i

      # What an earlier check found is of no use once somebody says anew what the columns are for.
      def self.begin_anew(import)
        # In this order: a clerk who holds a piece has written its rows by the time the piece can go.
        %i[import_pieces import_rows].each { |table| Records.db[table].where(import_id: import.id).delete }
      end

      # @param import [Records::Import]
      # @param folder [String]
      def initialize(import, folder, moment)
        @import, @folder, @moment = import, folder, moment
      end

      # One piece, or laying the file out in pieces, or what is done last.
      # @return [Boolean] false when there is nothing to do now
      def call
        check_piece || LayOutFile.new(@import, @folder).call || finish
      rescue Files::Unreadable => error
        Records.db.transaction do
          self.class.begin_anew(@import)
          @import.update(state: "failed", problem: [error.message, error.hint].compact.join(" ")[0, 500], updated_at: @moment.now)
        end
        true
      end

      private

      def pieces = Records.db[:import_pieces].where(import_id: @import.id)

      def check_piece
        Records.db.transaction do
          piece = pieces.where(found: nil).order(:first).for_update.skip_locked.first or next false
          @import.refresh
          pieces.where(first: piece[:first]).update(found: JSON.generate(check(PieceOfFile.read(piece[:cells]))))
          true
        end
      end

      # @return [Hash] "counts" of verdicts; "addresses": number and folded address of each row that is not refused;
      #   "unknown_owners"
      def check(rows)
        counts, addresses, reading = Hash.new(0), [], reading()
        read = rows.map { |number, cells| [number, cells, reading.read(cells)] }
        judge = ImportJudge.new(read.map { |_, _, row| row.values }, @moment)
        noted =
          read.map do |number, cells, row|
            address = Core::Fold.call(row.values["person.email"]) unless row.problem
            addresses << [number, address] if address
            note(number, cells, row, judge, counts)
          end
        Records::BulkInsert.call(:import_rows, noted)
        {"counts" => counts, "addresses" => addresses, "unknown_owners" => reading.unknown_owners}
      end

      def reading
        Core::Importing::RowReading.new(
          @import.matching.map { |match| match["field"] },
          catalogue: @moment.catalogue,
          taking: @moment.taking(ReceiveImport.habit(@import.reading)),
          owners: (@import.choices || {}).fetch("owners", {}),
          name_order: @import.reading["name_order"]
        )
      end

      def note(number, cells, row, judge, counts)
        verdict, person_id, reason, changes = row.problem ? ["refused", nil, row.problem, nil] : judge.verdict(row.values)
        counts[verdict] += 1
        # Rows that come in but for a value come back too, so that it can be mended.
        reason = [reason, *row.left_out].compact.join(" ") if verdict != "refused" && row.left_out.any?
        partly = COMES_IN.include?(verdict) && row.left_out.any?
        counts["partly"] += 1 if partly
        kept = partly || !COMES_IN.include?(verdict)
        {
          import_id: @import.id,
          number: number,
          verdict: verdict,
          person_id: person_id,
          reason: reason&.slice(0, 300),
          values: JSON.generate(row.values.transform_values { |value| ImportJudge.json(value) }),
          changes: changes && JSON.generate(changes.transform_values { |pair| pair.map { |value| ImportJudge.json(value) } }),
          cells: (JSON.generate(cells) if kept)
        }
      end

      def finish
        Records.db.transaction do
          import = Records::Import.where(id: @import.id, state: "checking", laid_out: true).for_update.first or next false
          next false if pieces.where(found: nil).any?

          counts, owners = Hash.new(0), []
          pieces.select(:found).order(:first).each do |piece|
            found = JSON.parse(piece[:found])
            counts.merge!(found["counts"]) { |_, one, other| one + other }
            owners |= found["unknown_owners"]
          end
          SameAddressInFile.new(import).refuse(counts)
          import.update(
            state: "checked",
            counts: counts.select { |_, rows| rows.positive? },
            choices: (import.choices || {}).merge("unknown_owners" => owners.first(Core::Importing::RowReading::MOST_UNKNOWN)),
            rows: pieces.sum(:rows).to_i,
            version: import.version + 1,
            updated_at: @moment.now
          )
          pieces.delete
          true
        end
      end
    end
  end
end
