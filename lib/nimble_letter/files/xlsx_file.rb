# frozen_string_literal: true

require "fileutils"
require "roo"
require "zip"

module NimbleLetter
  module Files
    # Rows of one sheet of an XLSX workbook (ECMA-376). What is in it is measured before anything is unpacked.
    class XlsxFile
      include Headed

      QuietXml.load!

      MOST_BYTES = 600 * 1024 * 1024 # unpacked
      MOST_RATIO = 200 # unpacked to packed; a real sheet of repeated text reaches about 40

      STYLES = "xl/styles.xml"
      NO_STYLES = <<~XML.delete("\n").freeze
        <styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">
        <cellXfs count="1"><xf numFmtId="0" fontId="0" fillId="0" borderId="0" xfId="0"/></cellXfs></styleSheet>
      XML

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

      def sheets = @sheets ||= with_book { |book| damaged { book.sheets } }

      # A damaged archive is answered with whatever is stumbled over first, hence the wide net: it is about this file only.
      def damaged
        yield
      rescue Invalid, Unreadable
        raise
      rescue
        raise broken
      end

      # What is unpacked for a look is gone after it.
      # @yieldparam book [Roo::Excelx]
      def with_book
        book = damaged { Roo::Excelx.new(@styled ? @path : add_styles, file_warning: :ignore, packed: nil) }
        yield book
      ensure
        book&.close
        FileUtils.rm_f(@with_styles) if @with_styles
      end

      # ECMA-376 18.8 lets a workbook have none; Roo asks for them.
      def add_styles
        @with_styles = "#{@path}.styled"
        FileUtils.cp(@path, @with_styles)
        Zip::File.open(@with_styles) { |zip| zip.get_output_stream(STYLES) { |out| out.write(NO_STYLES) } }
        @with_styles
      end

      # @yield [number, cells] as the sheet counts
      def each_line
        return enum_for(:each_line) unless block_given?

        at_work = false
        with_book do |book|
          last = 0
          book.each_row_streaming(sheet: @sheet) do |row|
            number = row.first&.coordinate&.row || (last + 1)
            cells = cells(row, last = number)
            at_work = true
            yield [number, cells] unless cells.all? { |cell| cell.nil? || cell.to_s.strip.empty? }
            at_work = false
          end
        rescue Unreadable
          raise
        rescue => error
          # A fault of what works with the rows is not the file's.
          raise at_work ? error : broken
        end
      end

      # @return [Array] each in its column
      def cells(row, number)
        row.each_with_object([]) do |cell, cells|
          value = value(cell)
          next if value.nil?

          column = cell.coordinate.column
          if column > CsvFile::MOST_COLUMNS
            most = CsvFile::MOST_COLUMNS
            raise Unreadable.new("There is something in row #{number}, column #{column}; at most #{most} columns can be read.",
              hint: "Delete what stands that far to the right, or save the table as CSV.")
          end

          cells[column - 1] = value
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
        total = damaged { unpacked_bytes }
        return if total <= MOST_BYTES && total <= File.size(@path) * MOST_RATIO + 10 * 1024 * 1024

        raise Unreadable.new(
          "Unpacked this file would be #{total / 1024 / 1024} MB, which is more than is taken in.",
          hint: "Save it as CSV and bring that in."
        )
      end

      def unpacked_bytes
        Zip::File.open(@path) do |zip|
          raise broken unless zip.find_entry("xl/workbook.xml") || zip.find_entry("[Content_Types].xml")

          @styled = !zip.find_entry(STYLES).nil?
          zip.sum(&:size)
        end
      end

      def broken = Unreadable.new("This calls itself a workbook, but cannot be read as one.", hint: "Save it anew as XLSX, or as CSV.")
    end
  end
end
