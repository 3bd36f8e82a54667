# frozen_string_literal: true

require "ipaddr"

module NimbleLetter
  module Core
    module Safety
      # Whose connection it is, as far as an address tells: with IPv6 somebody has a whole /64 of them (RFC 6177).
      module Connection
        # @param address [String, nil]
        # @return [String] what to count by
        def self.group(address)
          ip = IPAddr.new(address.to_s)
          ip = ip.native if ip.ipv4_mapped?
          ip.ipv6? ? "#{ip.mask(64)}/64" : ip.to_s
        rescue IPAddr::Error
          "unknown"
        end

        # @return [Boolean] this machine itself
        def self.loopback?(address)
          IPAddr.new(address.to_s).loopback?
        rescue IPAddr::Error
          false
        end
      end
    end
  end
end
