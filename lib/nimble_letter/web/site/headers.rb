# frozen_string_literal: true

module NimbleLetter
  module Web
    # What every answer carries: nothing runs or loads but what we ship, nobody frames us, and no other page holds ours.
    class Headers
      POLICY = "default-src 'self'; img-src 'self' data:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
      ALWAYS = {
        "content-security-policy" => POLICY,
        "x-content-type-options" => "nosniff",
        "referrer-policy" => "same-origin",
        "cross-origin-opener-policy" => "same-origin",
        "cross-origin-resource-policy" => "same-origin",
        "permissions-policy" => "camera=(), geolocation=(), microphone=(), payment=()"
      }.freeze

      # Where a letter would be shown our own page frames the answer, also one that says why there is none.
      SHOWN = %r{\A/api/.*/shown\z}
      FRAMED = {"content-security-policy" => POLICY.sub("frame-ancestors 'none'", "frame-ancestors 'self'")}.freeze

      def initialize(app) = @app = app

      def call(env)
        status, headers, body = @app.call(env)
        [status, {**ALWAYS, **(env["PATH_INFO"].match?(SHOWN) ? FRAMED : {}), **headers}, body]
      end
    end
  end
end
