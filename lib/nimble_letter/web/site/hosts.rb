# frozen_string_literal: true

require "rack/protection"

module NimbleLetter
  module Web
    # Answers only under its own names, so that nobody leads a browser here under another one (DNS rebinding).
    class Hosts < Rack::Protection::HostAuthorization
      LOOPBACK = %w[127.0.0.1 localhost [::1]].freeze

      def deny(_env)
        Problem.response(
          403,
          code: "unknown_host",
          message: "Nobody answers under this name.",
          hint: "Use the address that bin/start prints, or set NIMBLE_PUBLIC_URL to this one."
        )
      end
      alias_method :default_reaction, :deny
    end
  end
end
