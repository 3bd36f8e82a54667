# frozen_string_literal: true

require "rchardet"

module NimbleLetter
  module Files
    # Tells what a text file is written in: by its byte order mark, by whether it is UTF-8, else by how its lines read. Alphabets
    # other than the Latin one are rchardet's to tell; it knows them well, and takes German and Polish for each other, so that Latin ones
    # are told by the letters that languages have (Core::Importing::Alphabets).
    class EncodingGuess
      HEAD_BYTES = 256 * 1024
      PIECE_BYTES = 1024 * 1024
      TELLING_BYTES = 16 * 1024 # lines with letters beyond ASCII; more of them say the same
      LONGEST_LINE = 2000
      # Of those that read equally well the first is taken.
      ONE_BYTE = %w[
        Windows-1252 Windows-1250 ISO-8859-15 ISO-8859-2 MacRoman Windows-1251 KOI8-R Windows-1253 Windows-1254 Windows-1257 Windows-1255
        Windows-1256 IBM852 IBM866
      ].freeze
      OTHER_ALPHABETS = {
        "SHIFT_JIS" => "Windows-31J", "EUC-JP" => "EUC-JP", "GB2312" => "GB18030", "GB18030" => "GB18030", "BIG5" => "Big5",
        "EUC-KR" => "CP949", "CP949" => "CP949", "WINDOWS-1251" => "Windows-1251", "KOI8-R" => "KOI8-R", "IBM866" => "IBM866",
        "WINDOWS-1253" => "Windows-1253", "ISO-8859-7" => "Windows-1253", "WINDOWS-1255" => "Windows-1255", "TIS-620" => "Windows-874"
      }.freeze
      FEW_WORDS = %w[Windows-31J EUC-JP Big5 CP949 GB18030].freeze

      # @param path [String]
      def initialize(path)
        @path = path
      end

      # @return [String] one of TextEncoding::KNOWN
      def call
        head = File.binread(@path, HEAD_BYTES) || "".b
        marked = TextEncoding::MARKS.find { |mark, _| head.start_with?(mark) }
        return marked.last if marked
        return wide(head) if head.count("\0") > head.size / 10
        return "UTF-8" if utf8?

        other_alphabet || best
      end

      # @return [String] bytes of the first lines that tell something, or of the beginning
      def telling
        @telling ||= begin
          found = "".b
          File.open(@path, "rb") do |file|
            while found.bytesize < TELLING_BYTES && (line = file.gets("\n", LONGEST_LINE))
              found << line << "\n" if line.match?(/[\x80-\xFF]/n)
            end
          end
          found.empty? ? (File.binread(@path, LONGEST_LINE) || "".b) : found
        end
      end

      private

      # Plain Latin letters in 16 bits have a zero in every other byte.
      def wide(head)
        pairs = head.bytes.first(4000).each_slice(2).to_a
        (pairs.count { |pair| pair.first.zero? } > pairs.count { |pair| pair.last.zero? }) ? "UTF-16BE" : "UTF-16LE"
      end

      # The whole file is looked at, in pieces: one letter from another alphabet may stand in its last row.
      def utf8?
        rest = "".b
        File.open(@path, "rb") do |file|
          while (piece = file.read(PIECE_BYTES))
            text = rest + piece
            cut = text.rindex("\n") || text.size
            return false unless text[0, cut].force_encoding("UTF-8").valid_encoding?

            rest = text[cut..] || "".b
            rest = "".b if rest.size > HEAD_BYTES
          end
        end
        rest.force_encoding("UTF-8").valid_encoding?
      end

      # @return [String, nil]
      def other_alphabet = OTHER_ALPHABETS[CharDet.detect(telling)["encoding"].to_s.upcase]&.then { |name| name if reads?(name) }

      # The letters of European names come in pairs at times too.
      def reads?(name) = decoded(name)&.then { |text| Core::Importing::Alphabets.score(text).positive? }

      # A few words are too few for rchardet.
      def best
        scores = ONE_BYTE.to_h { |name| [name, score(name)] }
        best, most = scores.max_by(&:last)
        (most.positive? ? nil : FEW_WORDS.find { |name| reads?(name) }) || best
      end

      def score(name)
        text = decoded(name) or return -Float::INFINITY
        # ISO 6429: control characters from 80 to 9F stand in no text.
        Core::Importing::Alphabets.score(text) - text.count("\u0080-\u009f") * 3
      end

      # @return [String, nil] nil when it is not written so
      def decoded(name)
        telling.dup.force_encoding(name).encode("UTF-8")
      rescue EncodingError
        # A few bytes that stand for nothing may be somebody's slip.
        return unless ONE_BYTE.include?(name)

        telling.dup.force_encoding(name).encode("UTF-8", invalid: :replace, undef: :replace, replace: "\u0080")
      end
    end
  end
end
