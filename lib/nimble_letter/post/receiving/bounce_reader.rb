# frozen_string_literal: true

require "sisimai"

module NimbleLetter
  module Post
    # Reads delivery reports (RFC 3464) through Sisimai, and complaints through ComplaintReader.
    module BounceReader
      # event: "bounced" (for good), "bounced_softly" or "complained"
      Bounce = Struct.new(:event, :recipient, :message_id, :words) do
        def complaint = event == "complained"
      end

      DAEMON = /\A(mailer-daemon|postmaster)@/i

      # @param path [String] file of the message
      # @param mail [Mail::Message] the same, parsed
      # @return [Bounce, nil] nil for mail written by somebody
      def self.read(path, mail)
        return unless mail.mime_type == "multipart/report" || mail.from&.first.to_s.match?(DAEMON)

        complaint = ComplaintReader.read(mail)
        return complaint if complaint

        report = Sisimai.rise(path, delivered: false)&.first or return
        event = report.hardbounce ? "bounced" : "bounced_softly"
        Bounce.new(
          event,
          report.recipient.address,
          report.messageid.to_s.empty? ? nil : report.messageid,
          report.diagnosticcode.to_s[0, 300]
        )
      end
    end
  end
end
