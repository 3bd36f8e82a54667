# frozen_string_literal: true

module NimbleLetter
  module Core
    module MailReading
      # Which of our letters a piece of mail may answer, nearest first.
      module Thread
        ID = /<([^<>\s]+)>/
        # A reply that names no letter answers the last one its sender had, if that was not longer ago.
        REMEMBERED_SECONDS = 120 * 86_400

        # @param sent_at [Time] when the last letter went
        # @param now [Time]
        def self.answers_last?(sent_at, now) = now - sent_at <= REMEMBERED_SECONDS

        # RFC 5322 3.6.4: In-Reply-To names the parent; References lists the ancestors, the parent last.
        # @return [Array<String>] Message-IDs without angle brackets, each once
        def self.candidates(in_reply_to:, references:)
          (in_reply_to.to_s.scan(ID) + references.to_s.scan(ID).reverse).flatten.uniq
        end
      end
    end
  end
end
