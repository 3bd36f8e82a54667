# frozen_string_literal: true

module NimbleLetter
  module Core
    # How two texts count as the same: no case, no accents, no stray white space. Stored beside each text that is
    # searched, so that the database compares bytes and agrees with memory on every script (docs/decisions/0003).
    module Fold
      # @param text [String, nil]
      # @return [String, nil] nil for nothing or only white space
      def self.call(text)
        return if text.nil?

        # Unicode UAX 15: NFKD takes letters and marks apart, so the marks can go; folding may yield new ones.
        folded = text.to_s.scrub("").unicode_normalize(:nfkd).downcase(:fold).unicode_normalize(:nfkd).gsub(/\p{Mn}/, "")
        folded = folded.gsub(/[[:space:][:cntrl:]]+/, " ").strip
        folded.empty? ? nil : folded
      end
    end
  end
end
