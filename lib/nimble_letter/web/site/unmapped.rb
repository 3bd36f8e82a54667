# frozen_string_literal: true

module NimbleLetter
  module Web
    # Hands a mapped request on with its whole path.
    class Unmapped
      def initialize(app) = @app = app

      def call(env) = @app.call(env.merge("PATH_INFO" => "#{env["SCRIPT_NAME"]}#{env["PATH_INFO"]}", "SCRIPT_NAME" => ""))
    end
  end
end
