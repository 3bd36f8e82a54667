# frozen_string_literal: true

require "addressable/idna"

module NimbleLetter
  module Post
    # An address as mail servers know it.
    module WireAddress
      # RFC 5891 4.4: a domain in letters of other alphabets is written in its ASCII form.
      # @param email [String] see Core::Address
      # @return [String]
      # @raise [Invalid] for what no letter can be addressed to
      def self.of(email)
        unless email.to_s.match?(Core::Address::PATTERN)
          raise Invalid.new("“#{email.to_s[0, 190]}” is no address that a letter can go to.")
        end

        local, domain = email.split("@", 2)
        "#{local}@#{Addressable::IDNA.to_ascii(domain)}"
      end

      # @return [String] as people write it
      def self.read(email)
        local, domain = email.to_s.split("@", 2)
        domain ? "#{local}@#{Addressable::IDNA.to_unicode(domain)}" : email.to_s
      end
    end
  end
end
