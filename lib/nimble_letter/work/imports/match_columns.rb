# frozen_string_literal: true

module NimbleLetter
  module Work
    # Keeps what somebody says the columns of a file are meant for, as they say it, and finds out how those columns are to be read: by
    # what the file holds where that answers it, by asking where it does not.
    class MatchColumns
      # Further rows are looked through for an answer only where the first ones leave a question open, and no more of them than can be
      # waited for: workbooks are slow to read.
      MOST_ROWS = Hash.new(100_000).merge("xlsx" => 20_000).freeze

      # Fields are matched as soon as they are asked for, before their columns are made.
      # @param moment [Moment]
      # @return [Core::Fields::Catalogue]
      def self.catalogue(moment)
        coming = Records::CustomField.where(made: false).map(&:to_field)
        coming.empty? ? moment.catalogue : moment.catalogue.with(coming)
      end

      # @param folder [String]
      def initialize(import, folder, moment)
        @import, @folder, @moment = import, folder, moment
      end

      # @param matching [Array<String, nil>] field key of each column
      # @raise [Invalid, Conflict]
      # @return [Records::Import]
      def say(matching, version:)
        raise Invalid.new("This file is taken in already.", code: :taken_in) unless StartImport::TO_CHECK.include?(@import.state)

        matching.each { |key| known!(key) }
        @import.change!({matching: chosen(matching), state: "reading"}, version: version, now: @moment.now)
        settle
      end

      # @return [Records::Import] with a reading for what the file answers by itself, and what is to be asked
      def settle
        said = @import.reading.fetch("said", [])
        ways = Core::Importing::Unclear.all(columns)
        clear, asks = ways.partition { |_, some| some.one? }.map(&:to_h)
        settled = (Core::Importing::Unclear::QUESTIONS.keys - said).to_h { |key| [key, clear[key]&.first] }
        @import.update(reading: @import.reading.merge(settled).compact.merge("asks" => asks))
      end

      private

      def catalogue = @catalogue ||= self.class.catalogue(@moment)

      def known!(key)
        return if key.nil? || Core::Importing::Targets.find(key, catalogue)

        raise Invalid.new("A column cannot be brought into #{key.to_s[0, 60].inspect}.", code: :unknown_field, at: "matching")
      end

      def chosen(matching)
        before = @import.matching || []
        matching.each_with_index.map { |key, i| (before[i]&.[]("field") == key) ? before[i] : {"field" => key, "by" => "hand"} }
      end

      # @return [Array<Core::Importing::Unclear>] one for each column about which something may be asked
      def columns
        found = (@import.matching || []).each_with_index.filter_map do |match, i|
          field = match["field"] && Core::Importing::Targets.find(match["field"], catalogue)
          reading = Core::Importing::Unclear.reading(field)
          [i, Core::Importing::Unclear.new(reading)] if reading
        end
        return [] if found.empty?

        rows = Files.open(@import.path(@folder), @import.format, @import.reading).each_row.lazy.map { |_, cells| cells }
        rows.take(MOST_ROWS[@import.format]).each_slice(ReceiveImport::SAMPLE) do |some|
          found.each { |i, column| column.add(some.map { |row| row[i] }) }
          break unless found.any? { |_, column| column.open? }
        end
        found.map(&:last)
      end
    end
  end
end
