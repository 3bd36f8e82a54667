# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # Advice on a letter before it goes. Only what would really break the send blocks; all else can be set aside.
      module Checks
        # part: "subject", "preview", "body", "firm" (mended in Settings); excerpt: words to jump to; count: people or
        # letters; field: key of the one it is about
        Advice = Struct.new(:code, :words, :why, :part, :excerpt, :blocking, :count, :field, keyword_init: true)
        # What the checks look at. gaps: by field key, how many letters have nothing to put in, and whether it
        # may be fewer; html_bytes: of one letter.
        Given =
          Struct.new(
            :subject,
            :preview,
            :body,
            :passages,
            :designed,
            :for_deal,
            :html_bytes,
            :gaps,
            :postal_address,
            :contrasts,
            :catalogue,
            :attachment_bytes,
            keyword_init: true
          ) do
            # @return [Array<Document>] the text with the passages that stand in it
            def texts = [body, *passages]
          end

        KINDS = [SubjectChecks, BodyChecks, WordChecks, SendingChecks].freeze

        # @param given [Given]
        # @return [Array<Advice>] what blocks comes first
        def self.call(given) = KINDS.flat_map { |kind| kind.call(given) }.partition(&:blocking).flatten

        # @return [Advice]
        def self.advice(code, words, why, part: "body", **rest) = Advice.new(code: code, words: words, why: why, part: part, **rest)
      end
    end
  end
end
