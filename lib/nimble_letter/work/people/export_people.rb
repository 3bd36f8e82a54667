# frozen_string_literal: true

require "tempfile"

module NimbleLetter
  module Work
    # Writes people to a file: the columns, the condition and the order of the screen. Everybody at once, or a great many,
    # asks for the password again, and every file is noted.
    class ExportPeople
      FORMATS = {
        "csv" => "text/csv; charset=utf-8",
        "xlsx" => "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        "vcard" => "text/vcard; charset=utf-8"
      }.freeze
      SLICE = 1000
      STANDARD = %w[
        person.title
        person.first_name
        person.last_name
        company.name
        person.job_title
        person.email
        person.phone
        person.city
        person.country
        person.standing
        person.owner
        person.tags
        person.consent
      ].freeze

      # @param people [Sequel::Dataset]
      # @param columns [Array<String>] field keys; none: those a firm nearly always wants
      # @raise [Invalid, Forbidden]
      def initialize(people, format:, moment:, columns: [], sort: nil)
        raise Invalid.new("A file is one of #{FORMATS.keys.join(", ")}.", at: "format") unless FORMATS.key?(format)

        @format = format
        @ids = Records::PeopleTable.new(people, sort: sort).all_ids
        @columns = columns.empty? ? STANDARD : columns
        @columns |= going_along
        @fields = @columns.map { |key| PersonCells.field(key) }
        moment.fresh! if @ids.size > Moment::MANY || @ids.size == Records::Person.kept.count
        moment.note("exported", about: "#{@ids.size} people as #{format}", data: {people: @ids.size, columns: @columns})
      end

      attr_reader :format

      # @return [Tempfile] rewound
      def file
        file = Tempfile.new("people", binmode: true)
        (@format == "vcard") ? Files::VcardOut.write(file, cards) : Files::TableOut.write(@format, file, @fields.map(&:label), rows)
        file.flush
        file.rewind
        file
      end

      private

      # What goes along unasked where there is any: a "no", by whatever mark it is said, and further addresses beside the address.
      def going_along
        marks = (Core::Sieve::MARKS + ["person.consent"]).select { |key| any?(key) }
        return marks unless @columns.include?("person.email")

        further = @ids.each_slice(SLICE).any? { |some| Records.db[:person_addresses].where(person_id: some).any? }
        further ? [PersonCells::ADDRESSES, *marks] : marks
      end

      def any?(key)
        nos = Core::Sieve::SAYS_NO.fetch(key, [true])
        @ids.each_slice(SLICE).any? { |some| Records.db[:people].where(:id => some, key.delete_prefix("person.").to_sym => nos).any? }
      end

      def slices
        @ids.each_slice(SLICE).lazy.map do |some|
          found = Records::Person.where(id: some).as_hash(:id)
          some.filter_map { |id| found[id] }
        end
      end

      def rows
        slices.flat_map do |people|
          cells = PersonCells.new(people, @columns, for_file: true)
          people.map { |person| cells.of(person).values }
        end
      end

      # What a card has no place for goes along under names of our own.
      def cards
        own = Core::Importing::Targets.all(Records::FieldCatalogue.current).reject do |field|
          field.column.nil? && !%i[tags lists].include?(field.type) || Files::VcardOut::PLACES.include?(field.key)
        end
        slices.flat_map do |people|
          cells = PersonCells.new(people, own.map(&:key), for_file: true)
          companies = Records::Company.where(id: people.map(&:company_id).compact.uniq).select_hash(:id, :name)
          tags = Records.db[:people_tags].where(person_id: people.map(&:id)).join(:tags, id: :tag_id).select_hash_groups(:person_id, :name)
          further = Records.db[:person_addresses].where(person_id: people.map(&:id)).select_hash_groups(:person_id, :email)
          people.map do |person|
            person.values.merge(
              full_name: person.name,
              company: companies[person.company_id],
              tags: tags[person.id],
              further: further[person.id],
              own: cells.of(person)
            )
          end
        end
      end
    end
  end
end
