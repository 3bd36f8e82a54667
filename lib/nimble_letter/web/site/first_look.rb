# frozen_string_literal: true

require "rack"
require "rack/session/encryptor"

module NimbleLetter
  module Web
    # What can be said of a request by its head alone, before anything that it brings is read: that it gives its size in two ways
    # (RFC 9112 6.1), that it brings more than is taken, or that nobody is signed in who may bring anything.
    class FirstLook
      CHANGES = %w[POST PUT PATCH DELETE].freeze
      API = %r{\A/+api/}

      # @param configuration [Configuration]
      def initialize(configuration)
        safety = Safety.new(configuration)
        @cookie = safety.cookie
        @seal = Rack::Session::Encryptor.new(safety.secret, purpose: @cookie)
      end

      # @param env [Hash] of a request whose body has not come yet
      # @return [Array, nil] the Rack answer that refuses it; nil: it may bring what it brings
      def refusal(env) = refused(env)&.then { |status, headers, body| [status, {**Headers::ALWAYS, **headers}, body] }

      private

      def refused(env)
        size, path = env["CONTENT_LENGTH"], env["REQUEST_PATH"] || env["PATH_INFO"] || env["REQUEST_URI"].to_s[/\A[^?]*/]
        return Mishaps.unreadable if size && env["HTTP_TRANSFER_ENCODING"]
        return BodyLimit.refused(path) if size.to_i > BodyLimit.for(path)

        Problem.response(401, **SignedInOnly::SIGNED_OUT) if CHANGES.include?(env["REQUEST_METHOD"]) && path.match?(API) && !sealed?(env)
      end

      # Whether the cookie of the session is one of ours. Whose it is, and whether it still holds, is asked later (SignIn).
      def sealed?(env)
        value = Rack::Utils.parse_cookies(env)[@cookie] or return false
        @seal.decrypt(value)
        true
      rescue Rack::Session::Encryptor::Error, ArgumentError
        false
      end
    end
  end
end
