# frozen_string_literal: true

module NimbleLetter
  module Files
    # Cards of a vCard file as rows, one card a row (see VcardLines). Properties of our own, beginning with X-PERSON- or X-COMPANY-,
    # are columns too, so that what went out as cards comes back whole.
    class VcardFile
      COLUMNS = [
        "First name",
        "Last name",
        "Title",
        "Known as",
        "Address",
        "Further addresses",
        "Phone",
        "Mobile",
        "Company",
        "Job title",
        "City",
        "Region",
        "Country",
        "Birthday",
        "Language",
        "Time zone",
        "Tag",
        "Note"
      ].freeze
      OWN = /\AX-(?:PERSON|COMPANY)-[A-Z0-9-]+\z/
      MOST_OWN = 100
      MOST_IN_A_CARD = 4 * 1024 * 1024 # a picture may be inside
      MOST_LENGTH_OF_NAME = 80

      # @param path [String]
      # @param reading [Hash] "encoding"
      def initialize(path, reading = {})
        @path = path
        @encoding = reading["encoding"] || TextEncoding.guess(path)
      end

      def reading = {"encoding" => @encoding}

      def headers = COLUMNS + own

      # @yield [number, cells] number of the card, from 1
      # @raise [Unreadable]
      def each_row
        return enum_for(:each_row) unless block_given?

        each_card.with_index(1) { |text, number| yield(number, of_one(VcardLines.read(text))) }
      end

      private

      def own
        @own ||= begin
          found = Set.new
          TextEncoding.open(@path, @encoding) do |file|
            file.each_line("\n", MOST_IN_A_CARD) do |line|
              name = line[0, MOST_LENGTH_OF_NAME][/\A[A-Z0-9-]+(?=[:;])/i]&.upcase
              found << name if name&.match?(OWN) && found.size < MOST_OWN
            end
          end
          found.to_a
        end
      end

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

      # RFC 6350 6.1.4: a group is a list of others' cards and nobody by itself.
      def of_one(lines)
        group = lines.any? { |line| line.name.match?(/\A(?:X-ADDRESSBOOKSERVER-)?KIND\z/) && line.parts.first.to_s.casecmp?("group") }
        group ? Array.new(headers.size) : cells(lines)
      end

      def cells(lines)
        card = lines.group_by(&:name)
        addresses = preferred(card, "EMAIL")
        cells = [
          *names(card),
          one(card, "NICKNAME"),
          addresses.first,
          Core::Importing::WordsInACell.write(addresses.drop(1)),
          *phones(card),
          parts(card, "ORG").first,
          one(card, "TITLE"),
          *parts(card, "ADR").values_at(3, 4, 6),
          birthday(one(card, "BDAY")),
          one(card, "LANG")&.slice(0, 2)&.downcase,
          zone(one(card, "TZ")),
          categories(card),
          (card["NOTE"] || []).map { |line| line.parts.join(";") }.join("\n"),
          *own.map { |name| one(card, name) }
        ]
        cells.map { |cell| cell.to_s.strip.then { |words| words.empty? ? nil : words } }
      end

      # RFC 6350 6.2.2: family, given, additional, prefixes. The additional ones are given names too.
      def names(card)
        family, given, more, prefix = (card["N"]&.first&.lists || []).map { |list| list.map(&:strip).reject(&:empty?).join(" ") }
        given = [given, more].reject { |part| part.to_s.empty? }.join(" ")
        if given.empty? && family.to_s.empty?
          split = Core::Importing::WholeName.split(one(card, "FN").to_s, "given_first") || {}
          return [split[:given], split[:family], split[:title]]
        end
        [given, family, prefix]
      end

      # A number for letters on paper is none to call; of the others the one for the pocket has a place of its own.
      def phones(card)
        lines = by_preference(card["TEL"] || []).reject { |line| type?(line, "FAX") || type?(line, "PAGER") }
        mobile, others = lines.partition { |line| type?(line, "CELL") }
        phone, second = others.map { |line| number(line) }
        mobile = mobile.map { |line| number(line) }
        [phone || mobile.shift, mobile.first || second]
      end

      def number(line) = line.parts.join(";").sub(/\Atel:/i, "")

      def preferred(card, name)
        by_preference(card[name] || []).map { |line| line.parts.join(";").sub(/\Amailto:/i, "").strip }.reject(&:empty?).uniq(&:downcase)
      end

      # RFC 6350 5.3: PREF from 1, the most preferred; before, it was a type.
      def by_preference(lines)
        lines.each_with_index.sort_by do |line, i|
          pref = line.params["PREF"].first.to_i
          [if pref.positive?
             pref
           else
             (type?(line, "PREF") ? 1 : 101)
           end, i]
        end.map(&:first)
      end

      def type?(line, type) = line.params["TYPE"].any? { |one| one.casecmp?(type) }

      def parts(card, name) = card[name]&.first&.parts || []

      def one(card, name) = card[name]&.first&.parts&.join(";")&.then { |words| words.strip.empty? ? nil : words }

      def categories(card) = Core::Importing::WordsInACell.write((card["CATEGORIES"] || []).flat_map(&:items).reject(&:empty?))

      def birthday(text) = text&.strip&.sub(/\A(\d{4})(\d{2})(\d{2})(?:T.*)?\z/, "\\1-\\2-\\3")

      def zone(text) = text&.include?("/") ? text : nil
    end
  end
end
