# frozen_string_literal: true

require "uri"

module NimbleLetter
  module Core
    module Letters
      # Where a link may lead: an address with a scheme that only leads, with {{fields}} in it, or a field that holds all of it.
      module LinkAddress
        FIELD_FIRST = /\A#{TypedFields::PATTERN}/
        # Other programs write the brackets of a field in an address so (RFC 3986, 2.1).
        ENCODED = /%7B%7B((?:(?!%7D).)+)%7D%7D/i

        # @param href [String]
        def self.clear?(href)
          bare = href.gsub(TypedFields::PATTERN, "x")
          href.match?(FIELD_FIRST) ? !bare.match?(/[\s<>"]/) : bare.match?(Document::LINK_SCHEMES)
        end

        # @return [String, nil] a name in it that no field has
        def self.unknown_field(href, catalogue) = TypedFields.names(href).find { |name| !catalogue.named(name)&.for?(:merge) }

        # @param href [String] out of a file that anybody may have written
        # @return [String, nil] nil when a letter cannot lead there
        def self.from_elsewhere(href, catalogue)
          href = href.scrub("").strip.gsub(ENCODED) { |found| decoded($1) || found }
          href if clear?(href) && !unknown_field(href, catalogue)
        end

        def self.decoded(name)
          name = URI::DEFAULT_PARSER.unescape(name)
          "{{#{name}}}" if name.valid_encoding?
        end
        private_class_method :decoded
      end
    end
  end
end
