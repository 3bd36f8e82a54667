# frozen_string_literal: true

module NimbleLetter
  # Tables of people in files: CSV, XLSX and vCard, in and out. Knows nothing of records.
  module Files
    FORMATS = {"csv" => "CsvFile", "xlsx" => "XlsxFile", "vcard" => "VcardFile"}.freeze

    # @param path [String]
    # @return [String] by what is in it, whatever it is called
    # @raise [Unreadable] for what is no table at all, by its name
    def self.format_of(path)
      if (what = Kind.of(path))
        raise Unreadable.new(
          "This is #{what}, not a table of people.",
          hint: "Save the table as XLSX or CSV, or people as vCard, and bring that in."
        )
      end
      head = File.binread(path, 4096) || ""
      return "xlsx" if head.start_with?("PK\x03\x04".b)

      head.delete("\0").match?(/\A(?:\xEF\xBB\xBF|\xFF\xFE|\xFE\xFF)?\s*BEGIN:VCARD/ni) ? "vcard" : "csv"
    end

    # @param format [String] one of FORMATS
    # @return [#headers, #each_row, #reading]
    # @raise [Unreadable]
    def self.open(path, format, reading = {}) = const_get(FORMATS.fetch(format)).new(path, reading)
  end
end
