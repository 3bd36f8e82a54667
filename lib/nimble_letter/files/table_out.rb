# frozen_string_literal: true

require "bigdecimal"
require "csv"
require "xlsxtream"

module NimbleLetter
  module Files
    # Writes a table row by row, so that its length costs no memory.
    module TableOut
      MARK = "\uFEFF" # tells spreadsheets that this is UTF-8

      # @param format [String] csv or xlsx
      # @param io [IO] written to
      # @param headers [Array<String>]
      # @param rows [Enumerable<Array>]
      def self.write(format, io, headers, rows) = (format == "xlsx") ? xlsx(io, headers, rows) : csv(io, headers, rows)

      def self.csv(io, headers, rows)
        io.write(MARK)
        csv = CSV.new(io, row_sep: "\r\n") # RFC 4180 2.1
        csv << headers.map { |header| Defused.cell(header) }
        rows.each { |row| csv << row.map { |value| value.is_a?(BigDecimal) ? Core::Fields::Writing.digits(value) : Defused.cell(value) } }
      end
      private_class_method :csv

      def self.xlsx(io, headers, rows)
        Xlsxtream::Workbook.open(io) do |book|
          book.write_worksheet("People") do |sheet|
            sheet << headers.map { |header| Defused.cell(header) }
            rows.each { |row| sheet << row.map { |value| value.is_a?(BigDecimal) ? number(value) : Defused.cell(value) } }
          end
        end
      end
      private_class_method :xlsx

      def self.number(value) = value.frac.zero? ? value.to_i : value.to_f
      private_class_method :number
    end
  end
end
