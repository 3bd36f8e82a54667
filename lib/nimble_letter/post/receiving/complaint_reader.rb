# frozen_string_literal: true

require "mail"

module NimbleLetter
  module Post
    # Reads complaints in the abuse reporting format (RFC 5965). Sisimai 5.7 passes over them, so this is read here.
    module ComplaintReader
      # RFC 5965 7.3: what a provider sends when somebody said "this is spam", or asked to be taken off.
      TYPES = %w[abuse opt-out].freeze

      # @param mail [Mail::Message]
      # @return [BounceReader::Bounce, nil]
      def self.read(mail)
        return unless attempt { mail.content_type_parameters.to_h["report-type"] } == "feedback-report"

        report = mail.parts.find { |part| part.mime_type == "message/feedback-report" } or return
        fields = report.body.decoded
        return unless TYPES.include?(fields[/^Feedback-Type:\s*(\S+)/i, 1].to_s.downcase)

        original = mail.parts.find { |part| %w[message/rfc822 text/rfc822-headers].include?(part.mime_type) }
        # RFC 5965 3.2: several recipients may be named, each in a line of its own.
        named = fields.scan(/^Original-Rcpt-To:\s*<?([^>\s]+)/i).flatten
        BounceReader::Bounce.new("complained", named | recipients(original), message_id(original), "complaint")
      rescue *Files::MailFile::UNREADABLE
        nil
      end

      # The letter itself comes back with it, whole or in part; its own lines are read, not its structure.
      def self.recipients(original) = header(original, "To").scan(MailReader::ADDRESS)
      private_class_method :recipients

      def self.message_id(original) = header(original, "Message-ID")[Core::MailReading::Thread::ID, 1]
      private_class_method :message_id

      def self.header(original, name)
        text = original ? original.body.decoded.dup.force_encoding(Encoding::UTF_8).scrub("?") : ""
        text[/^#{name}:[ \t]*(.*(?:\r?\n[ \t].*)*)/i, 1].to_s
      end
      private_class_method :header

      def self.attempt
        yield
      rescue *Files::MailFile::UNREADABLE
        nil
      end
      private_class_method :attempt
    end
  end
end
