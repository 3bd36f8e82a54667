# frozen_string_literal: true

require "marcel"
require "stringio"
require "zip"

module NimbleLetter
  module Files
    # What a file is that is neither a table nor a text, told by what is in it, so that one can say it by its name.
    module Kind
      # By the type that marcel finds in its bytes.
      WORDS = {
        /ole-storage|msword|ms-excel|ms-powerpoint/ => "an old document of an office program (.xls, .doc or .ppt)",
        %r{\Aapplication/pdf} => "a PDF",
        %r{\Aimage/} => "a picture",
        %r{\A(?:audio|video)/|matroska|/ogg} => "a sound or a film",
        /rar-comp|7z-comp|cab-comp|gzip|x-xz|bzip|zstd|x-tar/ => "an archive",
        /msdownload|x-elf|mach-o/ => "a program",
        /sqlite|msaccess|ms-access/ => "a database",
        %r{\Aapplication/rtf} => "a document in RTF"
      }.freeze
      # Of these text is a part; what else looks like text is one, like a table whose first column is called FLV.
      WRITTEN = %r{\Aapplication/(?:pdf|rtf)}
      # In files of bytes these are everywhere, in texts nowhere.
      CONTROLS = "\x00-\x08\x0E-\x1F"
      PAGE = "a page in HTML"
      PAGE_BEGINS = /\A(?:\xEF\xBB\xBF)?\s{0,64}<(?:!doctype\s+html|html\b)/in
      # By an entry of its archive.
      PACKED = {
        "word/document.xml" => "a text document (.docx)",
        "ppt/presentation.xml" => "slides (.pptx)",
        "META-INF/container.xml" => "a book (.epub)",
        "content.xml" => "an open document (.ods, .odt or .odp)"
      }.freeze
      WIDE = /\A(?:\xFF\xFE|\xFE\xFF)/n
      # A text of 16 bits has a zero in about every other byte; what has few of them is no text.
      FEW = 0.25
      ODD = "\x01-\x08\x0E-\x1A" # signs that stand in no text

      HEAD_BYTES = 4096
      WORKBOOK = "a workbook (.xlsx)"

      # @param path [String]
      # @return [String, nil] "a PDF"; nil for what may be a table
      def self.of(path)
        head = File.binread(path, HEAD_BYTES) || "".b
        what = packed?(head) ? packed { Zip::File.open(path) { |zip| zip.entries.map(&:name) } } : plain(head)
        what || (PAGE if head.match?(PAGE_BEGINS)) unless what == WORKBOOK
      end

      # @param bytes [String] a whole file
      # @return [String, nil] nil for what may be a text, or a page
      def self.of_text(bytes)
        return packed { Zip::File.open_buffer(StringIO.new(bytes)).entries.map(&:name) } if packed?(bytes)

        plain(bytes.byteslice(0, HEAD_BYTES).b)
      end

      def self.packed?(head) = head.b.start_with?("PK\x03\x04".b, "PK\x05\x06".b)
      private_class_method :packed?

      def self.plain(head)
        type = Marcel::MimeType.for(StringIO.new(head))
        _, what = WORDS.find { |pattern, _| type.match?(pattern) } if type.match?(WRITTEN) || head.count(CONTROLS).positive?
        what || ("a file of bytes, not of text" if binary?(head))
      end
      private_class_method :plain

      # @yieldreturn [Array<String>] names of what is in it
      # @return [String, nil] nil for what cannot be looked into
      def self.packed
        names = yield
        return WORKBOOK if names.include?("xl/workbook.xml")

        PACKED.find { |name, _| names.include?(name) }&.last || "an archive (.zip)"
      rescue # a damaged archive is answered with whatever is stumbled over first
        nil
      end
      private_class_method :packed

      def self.binary?(head)
        return false if head.match?(WIDE)

        odd = head.count(ODD)
        odd > head.size / 10 || (odd > 8 && head.count("\0").between?(1, head.size * FEW))
      end
      private_class_method :binary?
    end
  end
end
