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
        return unless mail.content_type_parameters.to_h["report-type"] == "feedback-report"

        report = mail.parts.find { |part| part.mime_type == "message/feedback-report" } or return
        fields = Mail::Header.new(report.body.decoded)
        return unless TYPES.include?(fields["Feedback-Type"]&.value.to_s.strip.downcase)

        original = mail.parts.find { |part| part.mime_type == "message/rfc822" }
        letter = original && Mail.new(original.body.decoded)
        recipient = fields["Original-Rcpt-To"]&.value.to_s.delete("<>").strip
        BounceReader::Bounce.new("complained", recipient.empty? ? letter&.to&.first.to_s : recipient, letter&.message_id, "complaint")
      end
    end
  end
end
