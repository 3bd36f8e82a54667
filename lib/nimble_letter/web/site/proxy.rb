# frozen_string_literal: true

require "ipaddr"

module NimbleLetter
  module Web
    # Who asks, and how: what a request says of its way is believed only from a proxy that was stated; from everybody else
    # it is taken away before anything reads it.
    class Proxy
      FORWARDED = %w[
        HTTP_FORWARDED
        HTTP_X_FORWARDED_FOR
        HTTP_X_FORWARDED_HOST
        HTTP_X_FORWARDED_PORT
        HTTP_X_FORWARDED_PROTO
        HTTP_X_FORWARDED_SCHEME
        HTTP_X_FORWARDED_SSL
        HTTP_X_REAL_IP
        HTTP_CLIENT_IP
      ].freeze

      # @param trusted [Array<String>] addresses or networks, e.g. "127.0.0.1", "10.0.0.0/8"
      def initialize(app, trusted)
        @app, @trusted = app, trusted.map { |network| IPAddr.new(network) }
      end

      def call(env)
        said = FORWARDED.to_h { |name| [name, env.delete(name)] }
        believe(env, said) if trusted?(env["REMOTE_ADDR"])
        @app.call(env)
      end

      private

      def believe(env, said)
        # The nearest hop is written last; who stands before the first of ours is whom we answer.
        asker = said["HTTP_X_FORWARDED_FOR"].to_s.split(",").map(&:strip).reverse.find { |address| !trusted?(address) }
        env["REMOTE_ADDR"] = asker if Core::Safety::Connection.address(asker)
        return unless said["HTTP_X_FORWARDED_PROTO"].to_s.split(",").last.to_s.strip.casecmp?("https")

        env["rack.url_scheme"] = "https"
        env["HTTPS"] = "on"
      end

      def trusted?(text) = Core::Safety::Connection.address(text)&.then { |address| @trusted.any? { |network| network.include?(address) } }
    end
  end
end
