# frozen_string_literal: true

require "vcardigan"

module NimbleLetter
  module Files
    # Cards of a vCard file (RFC 2426, version 3; RFC 6350, version 4) as rows, one card a row.
    class VcardFile
      COLUMNS = [
        "First name",
        "Last name",
        "Title",
        "Known as",
        "Address",
        "Phone",
        "Company",
        "Job title",
        "City",
        "Region",
        "Country",
        "Birthday",
        "Language",
        "Time zone",
        "Tag"
      ].freeze
      MOST_IN_A_CARD = 4 * 1024 * 1024 # a picture may be inside

      # @param path [String]
      # @param reading [Hash] "encoding"
      def initialize(path, reading = {})
        @path = path
        @encoding = reading["encoding"] || TextEncoding.guess(path)
      end

      def reading = {"encoding" => @encoding}

      def headers = COLUMNS

      # @yield [number, cells] number of the card, from 1
      # @raise [Unreadable]
      def each_row
        return enum_for(:each_row) unless block_given?

        each_card.with_index(1) { |text, number| yield(number, cells(text, number)) }
      end

      private

      def each_card
        return enum_for(:each_card) unless block_given?

        card = nil
        TextEncoding.open(@path, @encoding) do |file|
          file.each_line("\n", MOST_IN_A_CARD) do |line|
            card = +"" if line.match?(/\ABEGIN:VCARD\s*\z/i)
            next unless card

            card << line
            if card.bytesize > MOST_IN_A_CARD
              raise Unreadable.new("One of the cards never ends.", hint: "Save the cards anew from where they come from.")
            end
            next unless line.match?(/\AEND:VCARD\s*\z/i)

            yield card
            card = nil
          end
        end
        raise Unreadable.new("The last card has no end.", hint: "The file may have been cut off; save it anew.") if card
      end

      def cells(text, number)
        card = VCardigan.parse(text)
        family, given, _more, prefix = parts(card, :n)
        given, family = parts(card, :fn).first.to_s.split(/ (?=\S+\z)/, 2) if given.to_s.empty? && family.to_s.empty?
        _box, _extended, _street, city, region, _code, country = parts(card, :adr)
        [
          given,
          family,
          prefix,
          first(card, :nickname),
          first(card, :email),
          first(card, :tel)&.sub(/\Atel:/i, ""),
          parts(card, :org).first,
          first(card, :title),
          city,
          region,
          country,
          birthday(first(card, :bday)),
          first(card, :lang)&.slice(0, 2)&.downcase,
          zone(first(card, :tz)),
          first(card, :categories)
        ].map { |cell| cell.to_s.strip.then { |words| words.empty? ? nil : words } }
      rescue ArgumentError, NoMethodError, VCardigan::EncodingError
        raise Unreadable.new("Card #{number} cannot be read.", hint: "Take it out of the file, or save it anew.")
      end

      # The reader parts at every semicolon, also at an escaped one; what ends in a backslash goes on in the next.
      def parts(card, name)
        values = card.field(name)&.first&.values || []
        values
          .inject([]) { |all, value| all.last&.match?(/(?<!\\)\\\z/) ? [*all[0..-2], "#{all.last};#{value}"] : [*all, value.to_s] }
          .map { |value| plain(value) }
      end

      def first(card, name) = parts(card, name).join(",").then { |words| words.empty? ? nil : words }

      # RFC 6350 3.4: commas, semicolons, backslashes and line breaks are escaped in texts.
      def plain(value) = value.to_s.gsub(/\\n/i, " ").gsub(/\\([,;\\:])/, "\\1")

      # RFC 6350 4.3.1 allows 19960415 and --0415; a day without a year is not a birthday one can keep.
      def birthday(text) = text&.sub(/\A(\d{4})(\d{2})(\d{2})\z/, "\\1-\\2-\\3")&.then { |date| date.start_with?("--") ? nil : date }

      def zone(text) = text&.include?("/") ? text : nil
    end
  end
end
