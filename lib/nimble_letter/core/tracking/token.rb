# frozen_string_literal: true

require "openssl"
require "base64"

module NimbleLetter
  module Core
    module Tracking
      # Signed names of a delivery for its pixel, its links and its way out. The token tells nobody who was written to,
      # and one that was changed by a single letter names nothing.
      class Token
        PURPOSES = {"o" => :open, "c" => :click, "u" => :unsubscribe}.freeze
        MAC_BYTES = 12 # 96 bits: RFC 2104 5 allows truncation to half the hash, and links stay short

        # @param secret [String] at least 32 bytes, the firm's own
        def initialize(secret)
          raise ArgumentError, "a signing secret needs 32 bytes" if secret.to_s.bytesize < 32

          @secret = secret
        end

        # @param purpose [Symbol] :open, :click or :unsubscribe
        # @param delivery [String] the delivery's public key, unguessable
        # @param link [Integer, nil] number of the link within the letter
        # @return [String] safe in a URL
        def write(purpose, delivery, link = nil)
          words = "#{PURPOSES.key(purpose)}.#{delivery}#{".#{link}" if link}"
          "#{words}.#{mac(words)}"
        end

        # @return [Array(Symbol, String, Integer), nil] purpose, delivery, link; nil for anything not written here
        def read(token)
          words, given = token.to_s.match(/\A(.+)\.([\w-]+)\z/)&.captures
          return unless words && OpenSSL.secure_compare(mac(words), given)

          purpose, delivery, link = words.split(".")
          [PURPOSES.fetch(purpose), delivery, link&.to_i]
        end

        private

        def mac(words)
          Base64.urlsafe_encode64(OpenSSL::HMAC.digest("SHA256", @secret, words).byteslice(0, MAC_BYTES), padding: false)
        end
      end
    end
  end
end
