# frozen_string_literal: true

module NimbleLetter
  module Work
    # Rows of a file as a piece of it keeps them until they are checked: JSON of [number, cells].
    module PieceOfFile
      DAY = "day"

      # @param rows [Array<Array>] number and cells: String, Date, Numeric, true, false or nil
      # @return [String]
      def self.write(rows) = JSON.generate(rows.map { |number, cells| [number, cells.map { |cell| plain(cell) }] })

      # @return [Array<Array>]
      def self.read(text)
        JSON.parse(text).map { |number, cells| [number, cells.map { |cell| cell.is_a?(Hash) ? Date.iso8601(cell[DAY]) : cell }] }
      end

      def self.plain(cell)
        case cell
        when nil, true, false, Integer then cell
        when String then cell.scrub("�")
        when Date then {DAY => cell.iso8601}
        when Float then cell.finite? ? cell : cell.to_s
        else cell.to_s
        end
      end
      private_class_method :plain
    end
  end
end
