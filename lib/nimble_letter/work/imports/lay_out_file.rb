# frozen_string_literal: true

module NimbleLetter
  module Work
    # Reads a file and lays its rows out in pieces, which several clerks can check while it goes on. Interrupted, it goes on
    # behind the last piece.
    class LayOutFile
      PIECE = 1000
      MOST_ROWS = 500_000
      LOCK = "nimble_import_"

      # @param import [Records::Import]
      # @param folder [String]
      def initialize(import, folder)
        @import, @folder = import, folder
      end

      # @return [Boolean] false when another clerk is at it, or it is done
      # @raise [Files::Unreadable]
      def call
        Records.db.synchronize do
          return false unless Records.db.get(Sequel.function(:get_lock, "#{LOCK}#{@import.id}", 0)) == 1

          begin
            wanted? && lay_out
          ensure
            Records.db.get(Sequel.function(:release_lock, "#{LOCK}#{@import.id}"))
          end
        end
      end

      private

      def pieces = Records.db[:import_pieces].where(import_id: @import.id)

      # Whoever says anew what the columns are for begins it anew.
      def wanted? = Records::Import.where(id: @import.id, version: @import.version, state: "checking", laid_out: false).for_update.any?

      def lay_out
        rows = pieces.sum(:rows).to_i
        file = Files.open(@import.path(@folder), @import.format, @import.reading)
        file.each_row.lazy.drop(rows).each_slice(PIECE) do |some|
          rows += some.size
          if rows > MOST_ROWS
            raise Files::Unreadable.new("This file has more than #{MOST_ROWS} rows.", hint: "Bring it in as several files.")
          end
          return false unless put(some)
        end
        Records.db.transaction { wanted? && @import.update(laid_out: true) }
        true
      end

      def put(rows)
        Records.db.transaction do
          next false unless wanted?

          pieces.insert(import_id: @import.id, first: rows.first.first, rows: rows.size, cells: PieceOfFile.write(rows))
          true
        end
      end
    end
  end
end
