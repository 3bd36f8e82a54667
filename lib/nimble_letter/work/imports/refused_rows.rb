# frozen_string_literal: true

require "tempfile"

module NimbleLetter
  module Work
    # The rows of a file that were not taken in, as they stood, with the line and the reason beside them: to be mended
    # and brought in again.
    module RefusedRows
      SLICE = 1000

      # @param import [Records::Import]
      # @return [Tempfile] CSV, rewound
      def self.file(import)
        headers = import.reading["headers"]
        left = ((import.choices || {})["doubtful"] == "leave") ? %w[refused doubtful] : %w[refused]
        # Where a single value of a row was left out, the row comes back with its reason too.
        partly = Sequel.&({verdict: CheckImport::COMES_IN}, Sequel.~(reason: nil))
        rows = Records.db[:import_rows].where(import_id: import.id).where(Sequel.|({verdict: left}, partly))
        file = Tempfile.new("refused", binmode: true)
        Files::TableOut.write(
          "csv",
          file,
          [*headers, "Line", "Reason"],
          each(rows).lazy.map { |row| padded(JSON.parse(row[:cells] || "[]"), headers.size) + [row[:number], row[:reason]] }
        )
        file.flush
        file.rewind
        file
      end

      def self.each(rows)
        return enum_for(:each, rows) unless block_given?

        last = 0
        while (some = rows.where { number > last }.order(:number).limit(SLICE).all).any?
          some.each { |row| yield row }
          last = some.last[:number]
        end
      end
      private_class_method :each

      def self.padded(cells, size) = cells.first(size) + Array.new([size - cells.size, 0].max)
      private_class_method :padded
    end
  end
end
