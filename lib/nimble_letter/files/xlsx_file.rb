# frozen_string_literal: true

require "roo"
require "zip"

module NimbleLetter
  module Files
    # Rows of one sheet of an XLSX workbook (ECMA-376). What is in it is measured before anything is unpacked.
    class XlsxFile
      include Headed

      MOST_BYTES = 600 * 1024 * 1024 # unpacked
      MOST_RATIO = 200 # unpacked to packed; a real sheet of repeated text reaches about 40

      # @param path [String]
      # @param reading [Hash] "sheet": its name; the first one when it is missing
      # @raise [Unreadable]
      def initialize(path, reading = {})
        @path = path
        measure
        @sheet = reading["sheet"] || sheets.first
        raise Invalid.new("There is no sheet “#{@sheet}” in this file.", at: "reading.sheet") unless sheets.include?(@sheet)

        read_header(reading)
      end

      def reading = {"sheet" => @sheet, "sheets" => sheets, "header" => @header}

      # @yield [number, cells] cells as String, Date, Numeric, true, false or nil
      def each_row
        return enum_for(:each_row) unless block_given?

        super { |number, cells| yield(number, cells + Array.new([headers.size - cells.size, 0].max)) }
      end

      private

      def nothing = Unreadable.new("There is nothing on the sheet “#{@sheet}”.", hint: "Choose another sheet.")

      def sheets = @sheets ||= book.sheets

      def book
        @book ||= Roo::Excelx.new(@path, file_warning: :ignore, packed: nil)
      rescue Zip::Error, ArgumentError, Nokogiri::XML::SyntaxError, NoMethodError, IOError, SystemCallError
        raise broken
      end

      # @yield [number, cells] as the sheet counts
      # Roo answers a damaged part with whatever it stumbles over first, hence the wide net: it is about this file only.
      def each_line
        return enum_for(:each_line) unless block_given?

        number, at_work = 0, false
        begin
          book.each_row_streaming(sheet: @sheet, pad_cells: true) do |row|
            number += 1
            cells = row.map { |cell| value(cell) }
            if cells.size > CsvFile::MOST_COLUMNS
              raise Unreadable.new("Row #{number} has #{cells.size} columns; at most #{CsvFile::MOST_COLUMNS} can be read.")
            end

            at_work = true
            yield [number, cells] unless cells.all? { |cell| cell.nil? || cell.to_s.strip.empty? }
            at_work = false
          end
        rescue Zip::Error, Nokogiri::XML::SyntaxError, NoMethodError, IOError
          # A fault of whoever works with the rows is not the file's.
          raise at_work ? $! : broken
        end
      end

      def value(cell)
        value = cell&.value
        case value
        when DateTime, Time then value.to_date
        when Float then (value == value.to_i) ? value.to_i : value
        when String then value.empty? ? nil : value
        else value
        end
      end

      def measure
        total = 0
        Zip::File.open(@path) do |zip|
          raise broken unless zip.find_entry("xl/workbook.xml") || zip.find_entry("[Content_Types].xml")

          zip.each { |entry| total += entry.size }
        end
        return if total <= MOST_BYTES && total <= File.size(@path) * MOST_RATIO + 10 * 1024 * 1024

        raise Unreadable.new(
          "Unpacked this file would be #{total / 1024 / 1024} MB, which is more than is taken in.",
          hint: "Save it as CSV and bring that in."
        )
      rescue Zip::Error
        raise broken
      end

      def broken = Unreadable.new("This calls itself a workbook, but cannot be read as one.", hint: "Save it anew as XLSX, or as CSV.")
    end
  end
end
