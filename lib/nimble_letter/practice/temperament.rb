# frozen_string_literal: true

require "digest"

module NimbleLetter
  module Practice
    # How the character behind an address behaves. The same seed and address always give the same one; an address that
    # begins with a temperament and a plus, like keen+ana@…, is of that temperament.
    module Temperament
      # Shares in parts of a thousand.
      SHARES = {
        silent: 370,
        glancer: 275,
        reader: 145,
        keen: 55,
        correspondent: 45,
        away: 35,
        failing: 18,
        refusing: 8,
        leaver: 12,
        naysayer: 7,
        scanned: 30
      }.freeze
      # Only on request: somebody who always answers the first letter warmly, a server that is busy, one that hangs up after
      # taking the letter, and one that refuses every letter of ours, which says nothing about the address.
      ON_REQUEST = %i[answering busy dropping wary].freeze

      # @return [Symbol]
      def self.of(address, seed)
        asked = address.to_s[/\A([a-z]+)\+/, 1]&.to_sym
        return asked if SHARES.key?(asked) || ON_REQUEST.include?(asked)

        roll = Digest::SHA256.digest("#{seed}:#{address.to_s.downcase}").unpack1("N") % SHARES.values.sum
        SHARES.each { |temperament, share| return temperament if (roll -= share).negative? }
      end
    end
  end
end
