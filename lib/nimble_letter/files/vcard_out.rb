# frozen_string_literal: true

module NimbleLetter
  module Files
    # Writes people as vCard 4 (RFC 6350).
    module VcardOut
      FOLD_BYTES = 75 # RFC 6350 3.2
      # Fields that a card has a property for; all others are written as X-PERSON-… and X-COMPANY-… (RFC 6350 6.10).
      PLACES = %w[
        person.first_name person.last_name person.title person.known_as person.email person.phone person.mobile person.company
        person.job_title person.city person.region person.country person.birthday person.language person.time_zone person.tags
        company.name
      ].freeze

      # @param io [IO]
      # @param people [Enumerable<Hash{Symbol=>Object}>] name parts, email, phone, company, job_title, city, region, country, birthday,
      #   language, time_zone, tags, further (addresses), own (cells by field key)
      def self.write(io, people)
        people.each { |person| io.write(lines(person).map { |line| folded(line) }.join) }
      end

      def self.lines(person)
        text = ->(name) { escaped(person[name]) }
        [
          "BEGIN:VCARD",
          "VERSION:4.0",
          "FN:#{text.call(:full_name)}",
          "N:#{text.call(:last_name)};#{text.call(:first_name)};;#{text.call(:title)};",
          one("NICKNAME", text.call(:known_as)),
          *[person[:email], *person[:further]].each_with_index.map { |email, i| one("EMAIL;PREF=#{i + 1}", escaped(email)) },
          one("TEL", text.call(:phone)),
          one("TEL;TYPE=cell", text.call(:mobile)),
          one("ORG", text.call(:company)),
          one("TITLE", text.call(:job_title)),
          (
            if %i[city region country].any? { |name| person[name] }
              "ADR:;;;#{text.call(:city)};#{text.call(:region)};;#{text.call(:country)}"
            end
          ),
          one("BDAY", person[:birthday]&.then { |day| day.strftime(Core::Fields::Yearless.is?(day) ? "--%m%d" : "%Y%m%d") }),
          one("LANG", text.call(:language)),
          one("TZ", text.call(:time_zone)),
          one("CATEGORIES", (person[:tags] || []).map { |tag| escaped(tag) }.join(",")),
          *(person[:own] || {}).map { |key, value| one(own(key), escaped(plain(value))) },
          "END:VCARD"
        ].compact
      end
      private_class_method :lines

      # @param key [String] of a field
      # @return [String] name of the property
      def self.own(key) = "X-#{key.upcase.tr("._", "--")}"

      def self.plain(value)
        case value
        when BigDecimal then Core::Fields::Writing.digits(value)
        when Date then value.iso8601
        else value
        end
      end
      private_class_method :plain

      def self.one(name, value) = value.to_s.empty? ? nil : "#{name}:#{value}"
      private_class_method :one

      # RFC 6350 3.4
      def self.escaped(value) = value.to_s.gsub(/[\\,;]/) { |mark| "\\#{mark}" }.gsub(/\r\n?|\n/, "\\n")
      private_class_method :escaped

      # A long line goes on in the next after a space, never inside of a letter.
      def self.folded(line)
        rest, out = line, +""
        while rest.bytesize > FOLD_BYTES
          cut = rest.byteslice(0, FOLD_BYTES).scrub("")
          out << cut << "\r\n "
          rest = rest.byteslice(cut.bytesize..)
        end
        out << rest << "\r\n"
      end
      private_class_method :folded
    end
  end
end
