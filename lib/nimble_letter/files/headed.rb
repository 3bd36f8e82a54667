# frozen_string_literal: true

module NimbleLetter
  module Files
    # A table of which one row names the columns, or none. What includes this gives each_line (numbers and cells of the rows
    # that hold something) and says when there is nothing.
    module Headed
      # @param reading [Hash] "header": number of the row that names the columns, 0 for none; guessed when it is missing
      def read_header(reading)
        @header = reading["header"] || Core::Importing::HeaderRow.guess(first_lines)
        raise Invalid.new("A row is told by its number.", at: "reading.header") unless @header.is_a?(Integer) && @header >= 0
      end

      # @return [Array<Array(Integer, Array)>] the first rows, whatever they hold; a damage further down is told when it is reached
      def first_lines
        @first_lines ||= begin
          found = []
          begin
            each_line { |line| (found << line).size < Core::Importing::HeaderRow::LOOKED_AT or break }
          rescue Unreadable
            raise if found.empty?
          end
          found
        end
      end

      # @return [Array<String>]
      # @raise [Unreadable]
      def headers
        @headers ||= begin
          raise nothing if first_lines.empty?

          named = first_lines.find { |number, _| number == @header }&.last
          width = first_lines.map { |_, cells| cells.size }.max
          named ? named.map { |cell| Defused.undone(cell).to_s } : Array.new(width) { |i| "Column #{i + 1}" }
        end
      end

      # @yield [number, cells] rows below the one that names the columns
      # @raise [Unreadable]
      def each_row
        return enum_for(:each_row) unless block_given?

        each_line { |number, cells| yield(number, cells.map { |cell| Defused.undone(cell) }) if number > @header }
      end
    end
  end
end
