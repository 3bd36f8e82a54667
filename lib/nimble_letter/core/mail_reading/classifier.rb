# frozen_string_literal: true

module NimbleLetter
  module Core
    module MailReading
      # Says what a piece of mail that came back is: a person's reply, a machine's answer, or a written "no thank you".
      # Bounces are told apart before this, by the bounce reader.
      module Classifier
        # RFC 3834 5: "no" means a human wrote it; anything else is automatic.
        HUMAN = "no"
        # Older programs that do not follow RFC 3834.
        AUTOMATIC_PRECEDENCE = %w[auto_reply auto-reply].freeze
        AUTOMATIC_HEADERS = %w[x-autoreply x-autorespond x-auto-response-suppress].freeze
        # RFC 3834 2: a machine's answer has no return path, so that nobody answers it. What a mail system writes has none either.
        NO_RETURN = /\A\s*<\s*>\s*\z/
        MAIL_SYSTEM = /\b(mailer-daemon|mail delivery (sub)?system)\b/i
        # A subject alone is weak evidence, so it counts only at its very start.
        AUTOMATIC_SUBJECT = /\A\s*(automatic reply|auto[- ]?reply|out of (the )?office|away from)\b/i
        # The whole of a short answer, not a phrase within a longer one.
        WRITTEN_NO = /
          \A\W*(please\s+)?
          (unsubscribe(\ me)?|remove\ me|take\ me\ off(\ your|\ the)?\ list|
            (do\ not|don['’]t|stop)\ (writ(e|ing)|e-?mail(ing)?|mail(ing)?|contact(ing)?)(\ to)?(\ me)?(\ again)?)
          \W*(thanks?|thank\ you)?\W*\z
        /ix

        # @param headers [Hash{String=>String}] names in lower case
        # @param text [String] the answer without quotes
        # @return [Symbol] :reply, :automatic or :unsubscribe
        def self.call(headers:, text:)
          return :automatic if automatic?(headers)
          return :unsubscribe if text.to_s.strip.match?(WRITTEN_NO)

          :reply
        end

        def self.automatic?(headers)
          submitted = headers["auto-submitted"].to_s.split(";").first.to_s.strip.downcase
          return submitted != HUMAN unless submitted.empty?

          AUTOMATIC_PRECEDENCE.include?(headers["precedence"].to_s.strip.downcase) ||
            AUTOMATIC_HEADERS.any? { |name| headers.key?(name) } ||
            headers["return-path"].to_s.match?(NO_RETURN) ||
            headers["from"].to_s.match?(MAIL_SYSTEM) ||
            headers["subject"].to_s.match?(AUTOMATIC_SUBJECT)
        end
        private_class_method :automatic?
      end
    end
  end
end
