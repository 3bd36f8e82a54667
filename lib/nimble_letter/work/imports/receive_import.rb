# frozen_string_literal: true

require "digest"
require "fileutils"
require "securerandom"

module NimbleLetter
  module Work
    # Takes a file on: keeps it, finds out how it is written and what its columns are meant for. Nothing in any record
    # changes yet.
    class ReceiveImport
      MOST_BYTES = 250 * 1024 * 1024
      SAMPLE = 200 # rows looked at for suggestions
      PIECE = 1024 * 1024
      # How a file is read, and how what stands in it is.
      HOW = %w[encoding delimiter sheet header].freeze
      HABITS = %w[order decimal name_order].freeze
      SHOWN_ROWS = 10 # of which one may name the columns

      # @param reading [Hash]
      # @return [Core::Fields::Habit] what nobody has said is not guessed
      # @raise [Invalid]
      def self.habit(reading)
        order = reading["name_order"]
        unless order.nil? || Core::Importing::WholeName::ORDERS.include?(order)
          raise Invalid.new("A name has the given or the family name first.", at: "reading.name_order")
        end

        Core::Fields::Habit.new(order: reading["order"], decimal: reading["decimal"])
      end

      # @param folder [String] where files are kept
      def initialize(folder, moment)
        @folder, @moment = folder, moment
      end

      # @param stream [#read] the file itself, read piece by piece
      # @return [Records::Import]
      # @raise [Invalid] when it is too large, empty, or cannot be read at all
      def receive(stream, name:)
        key = SecureRandom.uuid
        path = File.join(@folder, key)
        digest, bytes = keep(stream, path)
        format = Files.format_of(path)
        file = Files.open(path, format)
        file.headers
        # What cannot be read leaves nothing behind that waits.
        Records.db.transaction do
          import =
            Records::Import.create(
              account_id: @moment.account&.id,
              file_name: name.to_s.scrub("")[0, 300],
              file_key: key,
              digest: digest,
              bytes: bytes,
              format: format,
              state: "reading",
              reading: file.reading,
              created_at: @moment.now,
              updated_at: @moment.now
            )
          suggest(import)
        end
      rescue Error
        File.delete(path) if path && File.exist?(path)
        raise
      end

      # Reads the file anew in another way, with the columns matched anew where they have changed.
      # @param reading [Hash]
      # @return [Records::Import]
      def read_again(import, reading, version:)
        unless %w[reading checked failed].include?(import.state) && !import.file_key.empty?
          raise Invalid.new("This file has been taken in already.", code: :too_late)
        end

        wanted = import.reading.slice(*HOW).merge(reading.slice(*HOW))
        # Another sheet, and other lines, have their own headers.
        wanted.delete("header") if reading.key?("sheet") || reading.key?("delimiter") || reading.key?("encoding")
        file = Files.open(import.path(@folder), import.format, wanted)
        habits = reading.slice(*HABITS)
        self.class.habit(habits)
        anew = file.headers != headers(import)
        said = (import.reading.fetch("said", []) | habits.compact.keys) - habits.select { |_, way| way.nil? }.keys
        import.change!(
          {reading: import.reading.slice(*HABITS, "headers").merge(file.reading, habits, "said" => said), state: "reading"},
          version: version,
          now: @moment.now
        )
        anew ? suggest(import) : MatchColumns.new(import, @folder, @moment).settle
      end

      # @return [Array<Hash>] header, samples, field and by
      def columns(import)
        file = Files.open(import.path(@folder), import.format, import.reading)
        rows = file.each_row.first(SAMPLE).map(&:last)
        file.headers.each_with_index.map do |header, i|
          cells = rows.map { |row| row[i] }.compact
          values = cells.map(&:to_s).reject { |value| value.strip.empty? }
          match = (import.matching || [])[i] || {}
          {
            header: header.to_s,
            samples: values.uniq.first(4).map { |value| value[0, 120] },
            field: match["field"],
            by: match["by"]
          }
        end
      end

      # @return [Array<Hash>] name and sample of each encoding there is; none for a workbook, which says so itself
      def encodings(import) = (import.format == "xlsx") ? [] : Files::TextEncoding.samples(import.path(@folder))

      # @return [Array<Hash>] number and cells of the first rows, of which one may name the columns; none where cards do
      def first_rows(import)
        file = Files.open(import.path(@folder), import.format, import.reading)
        return [] unless file.respond_to?(:first_lines)

        file.first_lines.first(SHOWN_ROWS).map { |number, cells| {number: number, cells: cells.first(6).map { |cell| cell.to_s[0, 40] }} }
      end

      private

      def keep(stream, path)
        FileUtils.mkdir_p(@folder)
        digest, bytes = Digest::SHA256.new, 0
        File.open(path, "wb") do |file|
          while (piece = stream.read(PIECE))
            bytes += piece.bytesize
            if bytes > MOST_BYTES
              raise Invalid.new(
                "A file may have #{MOST_BYTES / 1024 / 1024} MB; this one is larger.",
                code: :too_large,
                at: "file",
                hint: "Bring it in as several files."
              )
            end

            digest << piece
            file.write(piece)
          end
        end
        raise Invalid.new("There is nothing in this file.", at: "file", hint: "Choose another file.") if bytes.zero?

        [digest.hexdigest, bytes]
      end

      def suggest(import)
        file = Files.open(import.path(@folder), import.format, import.reading)
        rows = file.each_row.first(SAMPLE).map(&:last)
        samples = file.headers.each_index.map { |i| rows.map { |cells| cells[i] }.compact.map(&:to_s) }
        matching =
          Core::Importing::ColumnMatching.new(
            MatchColumns.catalogue(@moment),
            habits: (import.reading["header"] == Core::Importing::HeaderRow::NONE) ? {} : habits
          ).match(file.headers, samples)
        import.update(matching: matching, reading: import.reading.merge("headers" => file.headers.map(&:to_s)))
        MatchColumns.new(import, @folder, @moment).settle
      end

      def habits = Records.db[:column_habits].select_hash(:header_fold, :field)

      def headers(import) = import.reading["headers"]
    end
  end
end
