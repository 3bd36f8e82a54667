# frozen_string_literal: true

require "mail"
require "digest"
require "erb"

module NimbleLetter
  module Post
    # Puts headers and two bodies together as multipart/alternative (RFC 2046 5.1.4), and files beside them as
    # multipart/mixed (5.1.3). The mail library encodes headers and bodies; assembling the parts here instead of there takes
    # a quarter of the time (bench/README.md).
    module Mime
      # @param header [Headers]
      # @param attachments [Array<#name, #mime, #data>]
      # @return [String] with CRLF line ends
      def self.message(header, text:, html:, attachments: [])
        seed = "#{header["Message-ID"]}#{text.bytesize}#{html.bytesize}"
        header["MIME-Version"] = "1.0"
        type, body = alternative(seed, text, html)
        type, body = mixed(seed, type, body, attachments) if attachments.any?
        header["Content-Type"] = type
        "#{header.encoded}\r\n#{body}"
      end

      # The last part is the best one, says RFC 2046 5.1.4.
      def self.alternative(seed, text, html)
        boundary = boundary("a#{seed}")
        parts = [["text/plain", text], ["text/html", html]].map do |type, body|
          "--#{boundary}\r\nContent-Type: #{type}; charset=UTF-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n" \
            "#{Mail::Encodings::QuotedPrintable.encode(body)}\r\n"
        end
        [%(multipart/alternative; boundary="#{boundary}"), "#{parts.join}--#{boundary}--\r\n"]
      end
      private_class_method :alternative

      def self.mixed(seed, type, body, attachments)
        boundary = boundary("m#{seed}")
        files = attachments.map { |file| "--#{boundary}\r\n#{file_header(file)}\r\n#{[file.data].pack("m").gsub("\n", "\r\n")}\r\n" }
        [
          %(multipart/mixed; boundary="#{boundary}"),
          "--#{boundary}\r\nContent-Type: #{type}\r\n\r\n#{body}\r\n#{files.join}--#{boundary}--\r\n"
        ]
      end
      private_class_method :mixed

      # What has no mark that could be taken off.
      LETTERS = {"ß" => "ss", "æ" => "ae", "Æ" => "Ae", "œ" => "oe", "Œ" => "Oe", "ø" => "o", "Ø" => "O", "ł" => "l", "Ł" => "L",
                 "đ" => "d", "Đ" => "D", "ð" => "d", "þ" => "th", "ı" => "i"}.freeze
      OTHERS = /[#{LETTERS.keys.join}]/

      # A name in other letters than English, three times over: for programs of today (RFC 2231), for older ones that read the
      # name as a header's words (RFC 2047), and for the oldest in plain letters.
      def self.file_header(file)
        plain = file.name.gsub(OTHERS, LETTERS).unicode_normalize(:nfkd).gsub(/\p{Mn}/, "").gsub(/[^\w.() -]/, "_")
        encoded = ERB::Util.url_encode(file.name)
        words = file.name.ascii_only? ? plain : Files::MailHeader.words(file.name).gsub(" ", "\r\n ")
        "Content-Type: #{file.mime};\r\n name=\"#{words}\"\r\n" \
          "Content-Disposition: attachment;\r\n filename=\"#{plain}\";\r\n filename*=UTF-8''" \
          "#{encoded}\r\nContent-Transfer-Encoding: base64\r\n"
      end
      private_class_method :file_header

      def self.boundary(seed) = "=_#{Digest::SHA256.hexdigest(seed)[0, 32]}"
      private_class_method :boundary
    end
  end
end
