# frozen_string_literal: true

require "mail"
require "loofah"
require "timeout"

module NimbleLetter
  module Post
    # Reads a piece of mail from its bytes. What a mail program elsewhere got wrong is read as far as it goes: a person's
    # answer must not be lost because a header of it is broken. Touches no record.
    class MailReader
      # Of a larger piece only so much is read; texts come before attachments. All of it stays in its folder.
      MOST_BYTES = 8 * 1024 * 1024
      # Any one piece of mail gets so much time.
      SECONDS = 20
      MOST_TEXT = 200_000 # characters kept
      # No mail program nests so deep; the library that parses would look at the innermost part once for each level.
      MOST_LEVELS = 40
      LEVEL = /^Content-Type:\s*multipart\//in
      ADDRESS = /[^\s<>"(),;:@\\\[\]]{1,64}@[^\s<>"(),;:@\\\[\]]{1,190}/
      # What an unreadable part of a mail raises in the library that parses it, a stack that ran out included.
      UNREADABLE = [StandardError, SystemStackError].freeze

      # @param path [String] of the file
      # @return [Array(String, Received)] the bytes that were read, and what they say
      # @raise [Errno::ENOENT] when somebody else took it
      # @raise [Timeout::Error] when it takes too long
      def self.read(path)
        raw = File.binread(path, MOST_BYTES) || ""
        report = path if raw.bytesize < MOST_BYTES
        Timeout.timeout(SECONDS) { [raw, new(raw, report).read] }
      end

      # @param raw [String] bytes
      # @param path [String, nil] the same as a file, for reading delivery reports
      def initialize(raw, path = nil)
        head, separator, body = raw.partition(/\r?\n\r?\n/n)
        @path = path
        @head = text_of(head)
        @body = body
        @deep = raw.scan(LEVEL).size > MOST_LEVELS
        @mail = parsed("#{without_dates}#{separator}".b)
      end

      # @return [Received]
      def read
        Received.new(
          message_id: message_id,
          from_address: from_address,
          from_name: clean(attempt { @mail[:from].display_names.first })&.slice(0, 190),
          subject: clean(attempt { @mail.subject })&.slice(0, 998),
          text: own_words,
          headers: headers,
          candidates: candidates,
          bounce: BounceReader.read(@path, @mail)
        )
      end

      private

      def attempt
        yield
      rescue *UNREADABLE
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
      def without_dates = @head.gsub(/^(?=[\w-]*Date[ \t]*:)/i, "X-")

      # A header as it was written, folded lines joined (RFC 5322 2.2.3).
      def written(name) = @head[/^#{name}:[ \t]*(.*(?:\r?\n[ \t].*)*)/i, 1].to_s.gsub(/\r?\n[ \t]+/, " ")

      def message_id = written("Message-ID")[Core::MailReading::Thread::ID, 1]&.slice(0, 500)

      def from_address
        # RFC 5322 3.6: there is one. Of several the first is taken.
        read = (@head.scan(/^From:/i).size == 1) ? attempt { @mail.from&.first }.to_s : ""
        (read.match?(/\A#{ADDRESS}\z/o) ? clean(read) : written("From")[ADDRESS])&.slice(0, 190)
      end

      def candidates
        Core::MailReading::Thread.candidates(in_reply_to: written("In-Reply-To"), references: written("References"))
      end

      def headers
        @head.gsub(/\r?\n[ \t]+/, " ").scan(/^([\x21-\x39\x3B-\x7E]{1,80}):[ \t]*(.*?)\r?$/).to_h { |name, value| [name.downcase, value] }
      end

      # What the person wrote, without the quoted letter below it.
      def own_words = Core::MailReading::QuoteCutter.call(words)

      def words
        return clean(innermost).strip[0, MOST_TEXT] if @deep

        plain = attempt { @mail.text_part || (@mail unless @mail.multipart? || @mail.mime_type == "text/html") }
        html = attempt { @mail.html_part || (@mail if @mail.mime_type == "text/html") }
        text = plain && (attempt { clean(plain.decoded) } || attempt { clean(plain.body.raw_source) })
        text ||= html && attempt { Loofah.fragment(clean(html.decoded)[0, MOST_TEXT]).to_text }
        (text || clean(@body)).to_s[0, MOST_TEXT]
      end

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

      def clean(text) = text && text.dup.force_encoding(Encoding::UTF_8).scrub("�").delete("\u0000")
    end
  end
end
