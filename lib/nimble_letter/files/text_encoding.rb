# frozen_string_literal: true

module NimbleLetter
  module Files
    # What a text file is written in, and reading it as UTF-8.
    module TextEncoding
      # Unicode 15, 23.8: the longer mark first, since one begins with the other.
      MARKS = {"\xEF\xBB\xBF".b => "UTF-8", "\xFF\xFE".b => "UTF-16LE", "\xFE\xFF".b => "UTF-16BE"}.freeze
      # Everything that can be made UTF-8; what is most likely first.
      KNOWN = begin
        # The same under another name, and what only terminals write.
        left_out = %w[US-ASCII ASCII-8BIT UTF-16 UTF-32 UTF8-MAC UTF-8-MAC CESU-8 UTF8-DoCoMo UTF8-KDDI UTF8-SoftBank]
        all = Encoding.list.reject { |one| left_out.include?(one.name) }.select do |one|
          one.name == "UTF-8" || Encoding::Converter.search_convpath(one, "UTF-8")
        rescue Encoding::ConverterNotFoundError
          false
        end
        first = %w[UTF-8 UTF-16LE UTF-16BE Windows-1252 ISO-8859-15 MacRoman Windows-1250 ISO-8859-2 Windows-1251 Windows-31J]
        (first | all.map(&:name).sort).freeze
      end
      SAMPLE_LETTERS = 60
      TELLING_CELL = /[^,;:\t|"\r\n]*[\x80-\xFF][^,;:\t|"\r\n]*/n

      # @param path [String]
      # @return [String] one of KNOWN
      def self.guess(path) = EncodingGuess.new(path).call

      # Opens a file to be read as UTF-8, the byte order mark left out.
      # @param encoding [String] one of KNOWN
      # @raise [Invalid]
      def self.open(path, encoding)
        unless KNOWN.include?(encoding)
          raise Invalid.new("Nothing here reads a file as “#{encoding.to_s[0, 40]}”.", at: "reading.encoding",
            hint: "Choose one of the list.")
        end

        head = File.binread(path, 3).to_s
        mark = MARKS.find { |bytes, name| name == encoding && head.start_with?(bytes) }&.first
        mode = (encoding == "UTF-8") ? "rb:UTF-8" : "rb:#{encoding}:UTF-8"
        File.open(path, mode, invalid: :replace, undef: :replace) do |file|
          file.seek(mark.bytesize) if mark
          yield file
        end
      end

      # How the file reads in each of them, to choose by what one sees.
      # @return [Array<Hash>] name and sample: the first cells with letters beyond ASCII, or how the file begins
      def self.samples(path)
        bytes = EncodingGuess.new(path).telling
        cells = bytes.include?("\0") ? [] : bytes.scan(TELLING_CELL).first(6)
        bytes = cells.join(", ") if cells.any?
        KNOWN.map do |name|
          text = bytes.dup.force_encoding(name).encode("UTF-8", invalid: :replace, undef: :replace)
          {name: name, sample: text.gsub(/[[:cntrl:]\s]+/, " ").strip[0, SAMPLE_LETTERS]}
        end
      end
    end
  end
end
