# frozen_string_literal: true

require "cgi/util"
require "mail"

module NimbleLetter
  module Web
    # A letter that reached the practice post office, as a mail program would take it apart.
    module PracticeLetterJson
      SOURCE_BYTES = 200_000

      # @param row [Hash] of practice_letters
      def self.row(row)
        head = Mail::Header.new(row[:raw].split("\r\n\r\n", 2).first, "UTF-8")
        {
          id: row[:id],
          to: row[:recipient],
          received_at: row[:received_at],
          subject: head["Subject"]&.decoded.to_s,
          from: head["From"]&.decoded.to_s,
          test: !head["X-Nimble-Test"].nil?
        }
      end

      def self.write(row)
        mail = Mail.read_from_string(row[:raw])
        {
          **row(row),
          text: mail.text_part&.decoded || (mail.multipart? ? "" : mail.decoded),
          source: row[:raw][0, SOURCE_BYTES],
          headers: mail.header.fields.map { |field| {name: field.name, value: field.decoded.to_s} },
          attachments: mail.attachments.map { |file| {name: file.filename, mime: file.mime_type, bytes: file.decoded.bytesize} }
        }
      end

      # @param public_url [String] what our own addresses begin with in letters, beside those on this machine
      # @return [String] as shown; our own pictures and links lead to where one is looking from
      def self.html(row, public_url)
        mail = Mail.read_from_string(row[:raw])
        html = mail.html_part&.decoded || ((mail.mime_type == "text/html") ? mail.decoded : "<pre>#{CGI.escapeHTML(mail.decoded)}</pre>")
        ours = Regexp.union(Practice::Home::ANY, /#{Regexp.escape(public_url)}(?=\/)/)
        # Looking here is not an "opened": the pixel is left out.
        html
          .gsub(%r{<img src="#{ours}/o/[^>]*>}, "")
          .gsub(/(?<= src="| href=")#{ours}/, "")
          .sub("<head>", '<head><base target="_blank">')
      end
    end
  end
end
