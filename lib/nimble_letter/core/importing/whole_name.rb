# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # A whole name in one cell, taken apart. "Smith, John" says itself which is which; "Lark Ana" does not, so the order of a
      # file is asked.
      module WholeName
        ORDERS = %w[given_first family_first].freeze
        TITLE = /\A(?:(?:dr|prof|mrs?|ms|mx|miss|sir|dame|rev|hon|herr|frau|m|mme|mlle|sr|sra|sig|dhr|mevr|pan|pani)\b\.? +)+/i
        # Words that belong to the family name behind them.
        PARTICLES = %w[
          van von vom zu zum zur de da do dos das del della delle degli di der den des du la le las los lo ter ten te af av al el bin ibn
          ben mac mc st saint santa y e
        ].freeze

        # @param text [String]
        # @param order [String, nil] one of ORDERS
        # @return [Hash{Symbol=>String}, nil] title, given, family; nil when the order would have to be guessed
        def self.split(text, order)
          text = text.strip.squeeze(" ")
          title = text[TITLE]
          rest = title ? text.delete_prefix(title) : text
          parts = apart(rest, order) or return
          {title: title&.strip, given: parts.first, family: parts.last}.reject { |_, part| part.nil? || part.empty? }
        end

        # @return [Boolean] whether the order has to be known
        def self.unclear?(text) = split(text, nil).nil?

        # @return [Array(String, String), nil] given and family name
        def self.apart(rest, order)
          if rest.include?(",")
            family, given = rest.split(/\s*,\s*/, 2)
            return [given, family]
          end
          words = rest.split(" ")
          return [nil, words.first] if words.size < 2

          case order
          when "given_first" then given_first(words)
          when "family_first" then family_first(words)
          end
        end
        private_class_method :apart

        def self.given_first(words)
          at = words.size - 1
          at -= 1 while at > 1 && particle?(words[at - 1])
          [words[0...at].join(" "), words[at..].join(" ")]
        end
        private_class_method :given_first

        def self.family_first(words)
          at = 1
          at += 1 while at < words.size - 1 && particle?(words[at - 1])
          [words[at..].join(" "), words[0...at].join(" ")]
        end
        private_class_method :family_first

        def self.particle?(word) = PARTICLES.include?(word.downcase.delete("."))
        private_class_method :particle?
      end
    end
  end
end
