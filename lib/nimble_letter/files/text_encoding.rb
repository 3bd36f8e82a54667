# frozen_string_literal: true

module NimbleLetter
  module Files
    # Tells what a text file is written in: by its byte order mark, else by trying.
    module TextEncoding
      # Unicode 15, 23.8: the longer mark first, since one begins with the other.
      MARKS = {"\xEF\xBB\xBF".b => "UTF-8", "\xFF\xFE".b => "UTF-16LE", "\xFE\xFF".b => "UTF-16BE"}.freeze
      KNOWN = %w[UTF-8 UTF-16LE UTF-16BE Windows-1252 ISO-8859-15 MacRoman].freeze
      SAMPLE = 256 * 1024

      # @param path [String]
      # @return [String] one of KNOWN
      def self.guess(path)
        head = File.binread(path, SAMPLE) || "".b
        marked = MARKS.find { |mark, _| head.start_with?(mark) }
        return marked.last if marked
        return wide(head) if head.count("\0") > head.size / 10

        utf8?(path) ? "UTF-8" : eight_bits(path)
      end

      # Where Western alphabets have their letters: MacRoman from 80 to 9F, Windows-1252 from C0 on. A letter in the middle of a
      # word says which.
      def self.eight_bits(path)
        old, western = 0, 0
        File.open(path, "rb") do |file|
          while (piece = file.read(1024 * 1024))
            old += piece.scan(/[A-Za-z][\x80-\x9F](?=[a-z])/n).size
            western += piece.scan(/[A-Za-z][\xC0-\xFF](?=[a-z])/n).size
          end
        end
        (old > western) ? "MacRoman" : "Windows-1252"
      end
      private_class_method :eight_bits

      # Opens a file to be read as UTF-8, the byte order mark left out.
      # @param encoding [String] one of KNOWN
      # @raise [Invalid]
      def self.open(path, encoding)
        raise Invalid.new("A file is written in one of #{KNOWN.join(", ")}.", at: "reading.encoding") unless KNOWN.include?(encoding)

        head = File.binread(path, 3).to_s
        mark = MARKS.find { |bytes, name| name == encoding && head.start_with?(bytes) }&.first
        mode = (encoding == "UTF-8") ? "rb:UTF-8" : "rb:#{encoding}:UTF-8"
        File.open(path, mode, invalid: :replace, undef: :replace) do |file|
          file.seek(mark.bytesize) if mark
          yield file
        end
      end

      # Plain Latin letters in 16 bits have a zero in every other byte.
      def self.wide(head)
        pairs = head.bytes.first(4000).each_slice(2).to_a
        (pairs.count { |pair| pair.first.zero? } > pairs.count { |pair| pair.last.zero? }) ? "UTF-16BE" : "UTF-16LE"
      end
      private_class_method :wide

      # The whole file is looked at, in pieces: one letter from another alphabet may stand in its last row.
      def self.utf8?(path)
        rest = "".b
        File.open(path, "rb") do |file|
          while (piece = file.read(1024 * 1024))
            text = rest + piece
            cut = text.rindex("\n") || text.size
            return false unless text[0, cut].force_encoding("UTF-8").valid_encoding?

            rest = text[cut..] || "".b
            rest = "".b if rest.size > SAMPLE
          end
        end
        rest.force_encoding("UTF-8").valid_encoding?
      end
      private_class_method :utf8?
    end
  end
end
