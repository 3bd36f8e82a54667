# frozen_string_literal: true

require "sisimai"

module NimbleLetter
  module Post
    # Reads delivery reports (RFC 3464) through Sisimai, and complaints through ComplaintReader. Which failures are about the
    # address is the core's to say (Core::Sending::Answer).
    module BounceReader
      # event: "bounced" (the address is none), "bounced_softly" or "complained"; recipients: addresses it may be about
      Bounce =
        Struct.new(:event, :recipients, :message_id, :words) do
          def complaint = event == "complained"
        end

      DAEMON = /\A(mailer-daemon|postmaster)@/i
      # What the library calls an address that is none; its own numbers for such a report are made up (5.0.9xx).
      UNKNOWN = %w[userunknown hasmoved].freeze
      MADE_UP = /\A5\.0\.9\d\d\z/

      # @param path [String, nil] file of the message
      # @param mail [Mail::Message] the same, parsed
      # @return [Bounce, nil] nil for mail written by somebody, and for a report that nobody can read
      def self.read(path, mail)
        complaint = ComplaintReader.read(mail)
        return complaint if complaint
        return unless path && report?(mail)

        report = Sisimai.rise(path, delivered: false)&.first or return
        id = report.messageid.to_s
        Bounce.new(event(report), [report.recipient.address], (id unless id.empty?), report.diagnosticcode.to_s[0, 300])
      rescue *Files::MailFile::UNREADABLE
        nil
      end

      # @return [Boolean] whether a mail system wrote it
      def self.report?(mail)
        mail.mime_type == "multipart/report" || mail.from&.first.to_s.match?(DAEMON)
      rescue *Files::MailFile::UNREADABLE
        false
      end
      private_class_method :report?

      def self.event(report)
        status = report.deliverystatus.to_s
        return "bounced" if UNKNOWN.include?(report.reason) && status.match?(MADE_UP)

        words = report.diagnosticcode.to_s.sub(/\A\w+;\s*/, "")
        answer = Core::Sending::Answer.new(words, stage: :report, enhanced: status.empty? ? nil : status)
        answer.about_address? ? "bounced" : "bounced_softly"
      end
      private_class_method :event
    end
  end
end
