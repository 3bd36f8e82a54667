# frozen_string_literal: true

module NimbleLetter
  module Core
    # Phone numbers as they are compared: digits only, without the ways of writing an international prefix.
    module Phone
      # @param text [String, nil]
      # @return [String, nil] "+44 (0)1632 960 101" is "441632960101"
      def self.fold(text)
        digits = text.to_s.gsub("(0)", "").gsub(/\D/, "").sub(/\A00/, "")
        digits.empty? ? nil : digits[0, 40]
      end

      # @return [String, nil] the last nine digits: what "+44 (0)1632 960 101" and "01632 960101" have in common
      def self.ending(text) = fold(text)&.then { |digits| (digits.size >= 7) ? digits[-9..] || digits : nil }
    end
  end
end
