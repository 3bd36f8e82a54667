# frozen_string_literal: true

require "openssl"
require "base64"

module NimbleLetter
  module Core
    module Safety
      # What a browser keeps from which somebody has signed in: whoever guesses from elsewhere uses up the tries of
      # strangers, not those of the colleague at their own desk (OWASP, "Slow Down Online Guessing Attacks with Device
      # Cookies"). It opens nothing.
      class KnownDevice
        # @param secret [String]
        def initialize(secret)
          @secret = secret
          freeze
        end

        # @param account_id [Integer]
        # @param nonce [String] letters and digits, another for each device
        # @return [String] for a cookie
        def write(account_id, nonce)
          words = "#{account_id}.#{nonce}"
          "#{words}.#{mac(words)}"
        end

        # @param token [String, nil] whatever a request brings
        # @return [String, nil] the nonce, when it was written here for this account
        def nonce(token, account_id)
          words, given = token.to_s.match(/\A(\d+\.\w+)\.([\w-]+)\z/)&.captures
          return unless words && OpenSSL.secure_compare(mac(words), given)

          whose, nonce = words.split(".")
          nonce if whose == account_id.to_s
        end

        private

        def mac(words) = Base64.urlsafe_encode64(OpenSSL::HMAC.digest("SHA256", @secret, "device #{words}"), padding: false)
      end
    end
  end
end
