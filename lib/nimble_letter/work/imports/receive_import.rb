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

        wanted = import.reading.slice("encoding", "delimiter", "sheet").merge(reading.slice("encoding", "delimiter", "sheet"))
        file = Files.open(import.path(@folder), import.format, wanted)
        habits = reading.slice("order", "decimal")
        Core::Fields::Habit.new(order: habits["order"], decimal: habits.fetch("decimal", "."))
        anew = file.headers != headers(import)
        import.change!(
          {reading: import.reading.slice("order", "decimal", "headers").merge(file.reading, habits), state: "reading"},
          version: version,
          now: @moment.now
        )
        anew ? suggest(import) : import
      end

      # @return [Array<Hash>] header, samples, field and by, and for a date the orders it could be written in
      def columns(import)
        file = Files.open(import.path(@folder), import.format, import.reading)
        rows = file.each_row.first(SAMPLE).map(&:last)
        file.headers.each_with_index.map do |header, i|
          values = rows.map { |cells| cells[i] }.compact.map(&:to_s).reject { |value| value.strip.empty? }
          match = (import.matching || [])[i] || {}
          {
            header: header.to_s,
            samples: values.uniq.first(4).map { |value| value[0, 120] },
            field: match["field"],
            by: match["by"],
            orders: orders(values)
          }
        end
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
            @moment.catalogue,
            habits: Records.db[:column_habits].select_hash(:header_fold, :field)
          ).match(file.headers, samples)
        orders =
          matching
            .zip(samples)
            .select { |match, _| @moment.catalogue[match["field"]]&.type == :date }
            .filter_map { |_, values| orders(values.reject { |value| value.strip.empty? }) }
        order = orders.inject(:&)
        reading = (order && order.size == 1) ? import.reading.merge("order" => order.first) : import.reading
        import.update(matching: matching, reading: reading.merge("headers" => file.headers.map(&:to_s)))
      end

      # In which orders all of them would be dates; nil for what is written so that nobody need ask.
      def orders(values)
        return if values.empty? || values.all? { |value| Core::Fields::Habit.plain.date(value) }

        Core::Fields::Habit.orders_for(values)
      end

      def headers(import) = import.reading["headers"]
    end
  end
end
