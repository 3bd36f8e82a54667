# frozen_string_literal: true

module NimbleLetter
  module Work
    # One address twice in a file: the first row counts, whoever checked it; the others come back.
    class SameAddressInFile
      # @param import [Records::Import] all of whose pieces are checked
      def initialize(import)
        @import = import
      end

      # @param counts [Hash{String=>Integer}] rows by verdict, which are mended
      def refuse(counts)
        seen = {}
        pieces.select(:first, :found).order(:first).each do |piece|
          again =
            JSON.parse(piece[:found])["addresses"].filter_map do |number, address|
              first = (seen[address] ||= number)
              [number, first] unless first == number
            end
          move(piece[:first], again.to_h, counts) if again.any?
        end
      end

      private

      def pieces = Records.db[:import_pieces].where(import_id: @import.id)

      def rows(numbers) = Records.db[:import_rows].where(import_id: @import.id, number: numbers)

      # @param again [Hash{Integer=>Integer}] the first row with the same address, by number
      def move(piece, again, counts)
        cells = PieceOfFile.read(pieces.where(first: piece).get(:cells)).to_h
        rows(again.keys).select(:verdict, :reason).each do |row|
          counts[row[:verdict]] -= 1
          counts["partly"] -= 1 if CheckImport::COMES_IN.include?(row[:verdict]) && row[:reason]
        end
        counts["refused"] += again.size
        refused = again.map { |number, first| refusal(number, first, cells.fetch(number)) }
        replaced = %i[verdict reason person_id changes cells].map { |name| "`#{name}` = VALUES(`#{name}`)" }
        Records::BulkInsert.call(:import_rows, refused, ending: " ON DUPLICATE KEY UPDATE #{replaced.join(", ")}")
      end

      def refusal(number, first, cells)
        {
          import_id: @import.id,
          number: number,
          verdict: "refused",
          reason: "The address is in line #{first} of this file already.",
          cells: JSON.generate(cells)
        }
      end
    end
  end
end
