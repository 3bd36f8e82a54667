# frozen_string_literal: true

require "ipaddr"

module NimbleLetter
  module Core
    module Safety
      # Whose connection it is, as far as an address tells: with IPv6 somebody has a whole /64 of them (RFC 6177).
      module Connection
        # @param text [String, nil]
        # @return [IPAddr, nil] nil for what is no address
        def self.address(text)
          IPAddr.new(text.to_s)
        rescue IPAddr::Error
          nil
        end

        # @param text [String, nil]
        # @return [String] what to count by
        def self.group(text)
          ip = address(text) or return "unknown"
          ip = ip.native if ip.ipv4_mapped?
          ip.ipv6? ? "#{ip.mask(64)}/64" : ip.to_s
        end

        # @return [Boolean] this machine itself
        def self.loopback?(text) = address(text)&.loopback? || false
      end
    end
  end
end
