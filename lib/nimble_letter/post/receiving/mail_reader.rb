# frozen_string_literal: true

require "timeout"

module NimbleLetter
  module Post
    # Reads a piece of mail from its bytes: who answers what, in which words. What is broken in it is read as far as it goes: a
    # person's answer must not be lost because a header of it is wrong. Touches no record.
    class MailReader
      # Of a larger piece only so much is read; texts come before attachments. All of it stays in its folder.
      MOST_BYTES = 8 * 1024 * 1024
      # Any one piece of mail gets so much time.
      SECONDS = 20
      ADDRESS = /[^\s<>"(),;:@\\\[\]]{1,64}@[^\s<>"(),;:@\\\[\]]{1,190}/

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
        @path = path
        @file = Files::MailFile.new(raw)
      end

      # @return [Received]
      def read
        Received.new(
          message_id: message_id,
          from_address: from_address,
          from_name: @file.clean(@file.attempt { @file.mail[:from].display_names.first })&.slice(0, 190),
          subject: @file.subject&.slice(0, 998),
          text: Core::MailReading::QuoteCutter.call(@file.words), # without the quoted letter below it
          headers: headers,
          candidates: candidates,
          bounce: BounceReader.read(@path, @file.mail)
        )
      end

      private

      def message_id = @file.written("Message-ID")[Core::MailReading::Thread::ID, 1]&.slice(0, 500)

      def from_address
        # RFC 5322 3.6: there is one. Of several the first is taken.
        read = (@file.head.scan(/^From:/i).size == 1) ? @file.attempt { @file.mail.from&.first }.to_s : ""
        (read.match?(/\A#{ADDRESS}\z/o) ? @file.clean(read) : @file.written("From")[ADDRESS])&.slice(0, 190)
      end

      def candidates
        Core::MailReading::Thread.candidates(in_reply_to: @file.written("In-Reply-To"), references: @file.written("References"))
      end

      def headers
        @file
          .head
          .gsub(/\r?\n[ \t]+/, " ")
          .scan(/^([\x21-\x39\x3B-\x7E]{1,80}):[ \t]*(.*?)\r?$/)
          .to_h { |name, value| [name.downcase, value] }
      end
    end
  end
end
