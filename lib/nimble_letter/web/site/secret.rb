# frozen_string_literal: true

module NimbleLetter
  module Web
    # Hands the signing secret to the sign-in, so that it stands in no class and no log.
    class Secret
      def initialize(app, secret)
        @app, @secret = app, secret
      end

      def call(env) = @app.call(env.merge!("nimble.secret" => @secret))
    end
  end
end
