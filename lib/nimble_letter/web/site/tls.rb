# frozen_string_literal: true

module NimbleLetter
  module Web
    # Where the page is reached over TLS it is reached over nothing else. A proxy that was stated ends the TLS, see Proxy.
    class Tls
      # RFC 6797 6.1.1; a year, as is usual. Other names of the same domain are not ours to speak for.
      STRICT = {"strict-transport-security" => "max-age=31536000"}.freeze

      # @param public_url [String] beginning with https://
      def initialize(app, public_url)
        @app, @public_url = app, public_url.chomp("/")
      end

      def call(env)
        request = Rack::Request.new(env)
        unless request.ssl?
          return [308, {"location" => "#{@public_url}#{request.fullpath}"}, []] if request.get? || request.head?

          return Problem.response(403, code: "not_over_tls", message: "This is answered over https only.", hint: @public_url)
        end

        status, headers, body = @app.call(env)
        [status, headers.merge(STRICT), body]
      end
    end
  end
end
