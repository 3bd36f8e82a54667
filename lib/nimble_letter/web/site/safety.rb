# frozen_string_literal: true

module NimbleLetter
  module Web
    # What the site has to know to be safe where it runs: its secret, whether it is reached over TLS, and how long a session
    # lasts in which nothing is done. Handed along with each request, so that the secret stands in no class and no log.
    class Safety
      KEY = "nimble.safety"

      attr_reader :secret, :idle_seconds

      # @param configuration [Configuration]
      def initialize(configuration)
        @secret, @tls, @idle_seconds = configuration.secret, configuration.tls?, configuration.idle_seconds
        freeze
      end

      def tls? = @tls

      # @return [String] a cookie's name; behind TLS browsers hold it to this host, this path and TLS (RFC 6265bis 4.1.3.2)
      def cookie(name = nil) = [("__Host-" if tls?), "nimble", ("-#{name}" if name)].join

      def inspect = "#<#{self.class}>"

      # Puts it into each request.
      class Along
        def initialize(app, safety)
          @app, @safety = app, safety
        end

        def call(env) = @app.call(env.merge!(KEY => @safety))
      end
    end
  end
end
