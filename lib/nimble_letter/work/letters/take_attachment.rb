# frozen_string_literal: true

module NimbleLetter
  module Work
    # Takes a file that goes with a letter.
    class TakeAttachment
      MOST_BYTES = 5 * 1024 * 1024
      MOST_TOGETHER = 8 * 1024 * 1024 # many servers stop at ten, and base64 adds a third
      MOST_FILES = 5
      TYPES = {
        "pdf" => "application/pdf",
        "txt" => "text/plain",
        "csv" => "text/csv",
        "ics" => "text/calendar",
        "vcf" => "text/vcard",
        "jpg" => "image/jpeg",
        "jpeg" => "image/jpeg",
        "png" => "image/png",
        "gif" => "image/gif",
        "webp" => "image/webp",
        "mp3" => "audio/mpeg",
        "wav" => "audio/wav",
        "m4a" => "audio/mp4",
        "zip" => "application/zip",
        "docx" => "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
        "xlsx" => "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        "odt" => "application/vnd.oasis.opendocument.text"
      }.freeze

      def initialize(letter, moment)
        @letter, @moment = letter, moment
      end

      # @param stream [#read]
      # @return [Records::Attachment]
      # @raise [Invalid]
      def call(stream, name:)
        name = Files::Attachable.plain_name(name)[-160..] || Files::Attachable.plain_name(name)
        name = "file" if name.empty?
        data = stream.read(MOST_BYTES + 1).to_s
        raise Invalid.new("The file is empty.", code: :empty_file) if data.empty?
        if data.bytesize > MOST_BYTES
          raise Invalid.new("A file may have #{MOST_BYTES / 1024 / 1024} MB.", code: :too_large, hint: "A link to it reaches more people.")
        end

        refuse!(Files::Attachable.refusal(name, data))
        room!(data.bytesize)
        Records::Attachment.create(
          letter_id: @letter.id,
          name: name,
          mime: TYPES.fetch(Files::Attachable.ending(name), "application/octet-stream"),
          bytes: data.bytesize,
          data: Sequel.blob(data),
          created_at: @moment.now
        )
      end

      private

      def refuse!(what)
        return unless what

        raise Invalid.new(
          "Mail servers turn away letters with #{what}.",
          code: :refused_file,
          at: "file",
          hint: "Put it on a page and link to it."
        )
      end

      def room!(bytes)
        there = Records::Attachment.where(letter_id: @letter.id).select_map(:bytes)
        raise Invalid.new("A letter takes #{MOST_FILES} files.", code: :too_many) if there.size >= MOST_FILES
        if there.sum + bytes > MOST_TOGETHER
          raise Invalid.new("All files of a letter may have #{MOST_TOGETHER / 1024 / 1024} MB together.", code: :too_large)
        end
      end
    end
  end
end
