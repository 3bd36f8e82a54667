# frozen_string_literal: true

require "csv"

module NimbleLetter
  module Files
    # Rows of a text file with a delimiter (RFC 4180, and what programs make of it), read one at a time.
    class CsvFile
      include Headed

      DELIMITERS = [",", ";", "\t", "|"].freeze
      MOST_COLUMNS = 500
      # A quote that never closes would otherwise swallow the rest of the file into one cell.
      MOST_IN_A_CELL = 64 * 1024
      SAMPLE_LINES = 60

      # @param path [String]
      # @param reading [Hash] "encoding", "delimiter", "header" (see Headed); what is missing is guessed
      def initialize(path, reading = {})
        @path = path
        @encoding = reading["encoding"] || TextEncoding.guess(path)
        @said = said_delimiter
        @delimiter = reading["delimiter"] || @said || guess_delimiter
        unless DELIMITERS.include?(@delimiter)
          raise Invalid.new("A delimiter is a comma, a semicolon, a tab or a bar.", at: "reading.delimiter")
        end
        read_header(reading)
      end

      # @return [Hash] how it is read, with nothing left to guess
      def reading = {"encoding" => @encoding, "delimiter" => @delimiter, "header" => @header}

      private

      def nothing = Unreadable.new("There is nothing in this file.", hint: "Choose another file.")

      # @yield [number, cells] the line the row begins on, as an editor counts; cells as String or nil
      # @raise [Unreadable] naming the row from which on it cannot be read
      def each_line
        return enum_for(:each_line) unless block_given?

        TextEncoding.open(@path, @encoding) do |file|
          within = 0 # line breaks inside of cells, which the reader does not count
          csv = CSV.new(file, col_sep: @delimiter, liberal_parsing: liberal?, max_field_size: MOST_IN_A_CELL)
          while (cells = csv.shift)
            line = csv.lineno + within
            within += cells.sum { |cell| cell.to_s.count("\n") }
            next if cells.all? { |cell| cell.nil? || cell.strip.empty? } || (line == 1 && @said)
            if cells.size > MOST_COLUMNS
              raise Unreadable.new("Line #{line} has #{cells.size} columns; at most #{MOST_COLUMNS} can be read.")
            end

            swallowed(cells, line)
            yield [line, cells]
          end
        rescue CSV::MalformedCSVError => error
          raise Unreadable.new(
            "From line #{error.line_number} on this file cannot be read: #{plain(error)}.",
            data: {
              line: error.line_number
            },
            hint: "Mend that line, or save the file anew from where it comes from."
          )
        rescue EncodingError
          raise Unreadable.new("This file is not written in #{@encoding}.", hint: "Choose another encoding.")
        end
      end

      WHOLE_ADDRESS = /\A"?[^\s@"]+@[^\s@"]+\.[^\s@"]+"?\z/

      # A quote that closes only where another one opens would take the rows in between into one cell: a line of it has as many cells as
      # the table, and an address where the table has them.
      def swallowed(cells, line)
        @width = [@width.to_i, cells.size].max
        @address_at ||= cells.index { |cell| cell&.match?(WHOLE_ADDRESS) }
        row = cells.find do |cell|
          @address_at && cell&.include?("\n") && cell.split("\n").drop(1).any? do |inner|
            parts = inner.split(@delimiter, -1)
            parts.size == @width && @width > 1 && parts[@address_at]&.match?(WHOLE_ADDRESS)
          end
        end
        return unless row

        raise Unreadable.new(
          "A quotation mark in line #{line} is not closed: it takes the #{row.count("\n")} lines below it into one cell.",
          data: {line: line},
          hint: "Mend that line, or save the file anew from where it comes from."
        )
      end

      # A quote in the middle of a cell is against the rules, yet common. Reading by the rules is twice as quick, so the
      # file is first looked through for one.
      def liberal?
        return @liberal if defined?(@liberal)

        stray = /[^#{Regexp.escape(@delimiter)}"\r\n]"[^#{Regexp.escape(@delimiter)}"\r\n]/
        @liberal =
          TextEncoding.open(@path, @encoding) { |file| file.each_line("\n", MOST_IN_A_CELL).any? { |line| line.scrub.match?(stray) } }
      end

      def plain(error)
        if error.message.match?(/field size|unclosed quote/i)
          "a quotation mark opens there and never closes"
        else
          error.message.sub(/ in line.*/, "").downcase
        end
      end

      # Some spreadsheets write "sep=;" above the table.
      def said_delimiter
        line = TextEncoding.open(@path, @encoding) { |file| file.gets("\n", MOST_IN_A_CELL) }
        line.to_s.scrub[/\A"?sep=([,;\t|])"?\s*\z/i, 1]
      end

      # The delimiter that parts most lines into the same number of cells.
      def guess_delimiter
        lines = TextEncoding.open(@path, @encoding) { |file| Array.new(SAMPLE_LINES) { file.gets("\n", MOST_IN_A_CELL) }.compact }
        # A row goes on in the next line as long as a quote is open.
        rows = lines.map(&:scrub).slice_when { |row| (@open = @open.to_i + row.count('"')).even? }.map(&:join)
        bare = rows.map { |row| row.gsub(/"(?:[^"]|"")*"/, "") }
        DELIMITERS.max_by do |delimiter|
          counts = bare.map { |line| line.count(delimiter) }
          common = counts.tally.max_by { |count, times| [count.zero? ? 0 : times, count] }
          (common.nil? || common.first.zero?) ? [0, 0] : [common.last, common.first]
        end
      end
    end
  end
end
