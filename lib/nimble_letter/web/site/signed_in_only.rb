# frozen_string_literal: true

module NimbleLetter
  module Web
    # Who is not signed in learns nothing of the API, not even what it would have taken.
    class SignedInOnly
      SIGNED_OUT = {code: "signed_out", message: "You are signed out.", hint: "Sign in again; what you typed is kept."}.freeze

      def initialize(app) = @app = app

      def call(env)
        return @app.call(env) if env["rodauth"]&.session_value || open?(env)

        Problem.response(401, **SIGNED_OUT)
      end

      private

      # What the page asks to know whether anybody is signed in.
      def open?(env) = env["PATH_INFO"] == "/api/session" && %w[GET HEAD].include?(env["REQUEST_METHOD"])
    end
  end
end
