# frozen_string_literal: true

require "mail"
require "loofah"

module NimbleLetter
  module Files
    # A piece of mail as a file, whatever state it is in. What a mail program elsewhere got wrong is read as far as it goes.
    class MailFile
      MOST_TEXT = 200_000 # characters kept
      # No mail program nests so deep; the library that parses would look at the innermost part once for each level.
      MOST_LEVELS = 40
      LEVEL = /^Content-Type:\s*multipart\//in
      # What an unreadable part of a mail raises in the library that parses it, a stack that ran out included.
      UNREADABLE = [StandardError, SystemStackError].freeze

      # head: the headers as text; mail: what the library makes of it
      attr_reader :head, :mail

      # @param raw [String] bytes
      def initialize(raw)
        head, separator, body = raw.b.partition(/\r?\n\r?\n/n)
        @head = text_of(head)
        @body = body
        @deep = raw.b.scan(LEVEL).size > MOST_LEVELS
        @mail = parsed("#{without_dates}#{separator}".b)
      end

      # @return what the block returns, or nil when this cannot be read
      def attempt
        yield
      rescue *UNREADABLE
        nil
      end

      # @return [String, nil]
      def subject = clean(attempt { mail.subject })

      # A header as it was written, folded lines joined (RFC 5322 2.2.3).
      def written(name) = head[/^#{name}:[ \t]*(.*(?:\r?\n[ \t].*)*)/i, 1].to_s.gsub(/\r?\n[ \t]+/, " ")

      # @return [String] what is to be read in it, as text
      def words
        return clean(innermost).strip[0, MOST_TEXT] if @deep

        text = plain || html&.then { |page| attempt { Loofah.fragment(page[0, MOST_TEXT]).to_text } }
        (text || clean(@body)).to_s[0, MOST_TEXT]
      end

      # @return [String, nil] the text somebody wrote beside or instead of a page
      def plain
        part = attempt { mail.text_part || (mail unless mail.multipart? || mail.mime_type == "text/html") } or return
        attempt { clean(text_in(part)) } || attempt { clean(part.body.raw_source) }
      end

      # @return [String, nil] HTML
      def html
        return if @deep

        part = attempt { mail.html_part || (mail if mail.mime_type == "text/html") } or return
        attempt { clean(text_in(part)) } || attempt { clean(part.body.raw_source) }
      end

      # @return [Array<Array(String, String)>] names and bytes of what goes with it; what cannot be read is left out
      def attachments
        return [] if @deep

        (attempt { mail.attachments.to_a } || []).filter_map do |part|
          name, data = attempt { part.filename }, attempt { part.body.decoded }
          [clean(name), data] if name && data && !data.empty?
        end
      end

      # @return [String, nil] as text that can be kept
      def clean(text) = text && text.dup.force_encoding(Encoding::UTF_8).scrub("�").delete("\u0000")

      private

      BOM = "\uFEFF"
      META = /<meta[^>]{0,200}charset=["']?([\w-]+)/i

      # In the charset it says, if that is one; else in the one that a page says itself, in UTF-8 where that can be, or in the
      # western European one that old programs meant.
      def text_in(part)
        charset = encoding(part.charset)
        return part.decoded.delete_prefix(BOM) if charset && charset != Encoding::US_ASCII && charset != Encoding::UTF_8

        bytes = part.body.decoded.b
        utf8 = bytes.dup.force_encoding(Encoding::UTF_8)
        return utf8.delete_prefix(BOM) if utf8.valid_encoding?

        said = charset ? nil : encoding(bytes[0, 2000][META, 1])
        bytes.force_encoding(said || ((charset == Encoding::UTF_8) ? charset : Encoding::Windows_1252))
          .encode(Encoding::UTF_8, invalid: :replace, undef: :replace)
      end

      def encoding(name)
        name && Encoding.find(name.to_s.sub(/\Autf8\z/i, "UTF-8"))
      rescue ArgumentError
        nil
      end

      # RFC 6532 has headers in UTF-8. Bytes that are none were meant in the western European set of old programs.
      def text_of(head)
        bytes = head.delete("\0")
        utf8 = bytes.dup.force_encoding(Encoding::UTF_8)
        return utf8 if utf8.valid_encoding?

        bytes.force_encoding(Encoding::Windows_1252).encode(Encoding::UTF_8, invalid: :replace, undef: :replace)
      end

      # As much of it as the library reads: all of it, its head, or nothing but a text.
      def parsed(head)
        (attempt { Mail.new(head + @body) } unless @deep) || attempt { Mail.new(head.gsub(LEVEL, "X-\\0")) } ||
          Mail.new("\r\n\r\n#{@body}".b)
      end

      # Nobody asks when somebody's clock says that they wrote, and the library gives a mail up whose date is beyond reading.
      def without_dates = head.gsub(/^(?=[\w-]*Date[ \t]*:)/i, "X-")

      # The first text in a mail whose structure is beyond reading.
      def innermost
        at = @body.index(/^(Content-Type:\s*text\/plain|[^:\s-][^:]*$)/in) or return @body
        @body
          .byteslice(at, MOST_TEXT * 4)
          .sub(/\AContent-Type:.*?\r?\n\r?\n/mn, "")
          .lines
          .take_while { |line| !line.start_with?("--") }
          .join
      end
    end
  end
end
