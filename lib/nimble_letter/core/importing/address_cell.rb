# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # What stands in a cell for addresses: one, or several; bare, as a link, or with a name (RFC 5322 3.4).
      module AddressCell
        # addresses: as written, the first is the one to use; name: beside it, nil without
        Found = Struct.new(:addresses, :name)

        # A piece up to the next comma, semicolon or line break outside of quotation marks.
        PIECE = /((?:"[^"]*"|[^",;\n])+|")(?:[,;\n]|\z)/
        NAMED = /\A(?<name>[^<>]*)<\s*(?:mailto:)?(?<address>[^<>\s]+)\s*>\z/i
        LONGEST = 2000

        # @param text [String]
        # @return [Found, nil] nil when something in it is no address
        def self.read(text)
          return if text.length > LONGEST

          addresses, name, before = [], nil, []
          text.tr("\r", "\n").scan(PIECE).flatten.map(&:strip).reject(&:empty?).each do |piece|
            if (found = NAMED.match(piece))
              name ||= name([*before, found[:name]].join(", "))
              addresses << found[:address]
              before = []
            # "Lark, Ana <…>" without quotation marks.
            elsif !piece.include?("@") then before << piece
            else
              addresses.concat(piece.split.map { |one| one.sub(/\Amailto:/i, "") })
            end
          end
          return if before.any? || addresses.empty? || !addresses.all? { |one| one.match?(Address::PATTERN) }

          Found.new(addresses.uniq { |one| Fold.call(one) }, name)
        end

        def self.name(text) = text.delete('"').strip.then { |name| (name.empty? || name.include?("@")) ? nil : name }
        private_class_method :name
      end
    end
  end
end
