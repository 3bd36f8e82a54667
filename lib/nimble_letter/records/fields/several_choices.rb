# frozen_string_literal: true

module NimbleLetter
  module Records
    # A field of several choices in one column: "|oak||felt|". Keys hold letters, digits and underscores only.
    module SeveralChoices
      def self.mark(key) = "|#{key}|"

      # @param keys [Array<String>]
      # @return [String, nil]
      def self.write(keys) = keys.empty? ? nil : keys.uniq.sort.map { |key| mark(key) }.join

      # @return [Array<String>]
      def self.read(text) = text.to_s.scan(/\|([^|]+)\|/).flatten
    end
  end
end
