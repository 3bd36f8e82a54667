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

        return plain(text) if text.is_a?(String) && text.ascii_only?

        # Unicode UAX 15: NFKD takes letters and marks apart, so the marks can go; folding may yield new ones.
        folded = text.to_s.scrub("").unicode_normalize(:nfkd).downcase(:fold).unicode_normalize(:nfkd).gsub(/\p{Mn}/, "")
        folded = folded.gsub(/[[:space:][:cntrl:]]+/, " ").strip
        folded.empty? ? nil : folded
      end

      STRAY = /\A\s|\s\z|\s\s|[\x00-\x1f\x7f]/

      # The same for plain letters, which most texts consist of; an import of 100,000 rows folds a million of them.
      def self.plain(text)
        folded = text.downcase
        folded = folded.gsub(/[\s\x00-\x1f\x7f]+/, " ").strip if folded.match?(STRAY)
        folded.empty? ? nil : folded
      end
      private_class_method :plain
    end
  end
end
