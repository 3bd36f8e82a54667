# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # What comes from a record or a person's keyboard, made fit for one line of a letter.
      module Values
        # Unicode TR36 2.4: embeddings, overrides and isolates could turn round the words that follow them.
        HIDDEN = "\u202a-\u202e\u2066-\u2069\ufeff"
        BREAKS = /[[:cntrl:]\u2028\u2029]+/
        PLAIN_BREAKS = /[\x00-\x1f\x7f]/ # the same among plain letters; seven times as quick

        # @param value [#to_s, nil]
        # @return [String, nil] one line; nil when there is nothing to say
        def self.clean(value)
          return if value.nil?

          text = value.to_s
          text = text.scrub("") unless text.valid_encoding?
          if text.ascii_only?
            text = text.gsub(BREAKS, " ") if text.match?(PLAIN_BREAKS)
          else
            # A name with a line break would otherwise reach the subject header (header injection).
            text = text.gsub(BREAKS, " ").delete(HIDDEN)
          end
          text = text.strip
          text.empty? ? nil : text
        end
      end
    end
  end
end
