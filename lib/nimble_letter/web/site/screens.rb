# frozen_string_literal: true

require "rack/files"

module NimbleLetter
  module Web
    # Serves the built screens: files by name, and the one page for every address that is not the API's.
    class Screens
      FOLDER = File.join(ROOT, "ui", "dist")
      YEAR_SECONDS = 31_536_000

      def initialize(app)
        @app = app
        @files = Rack::Files.new(FOLDER)
      end

      def call(env)
        path = env["PATH_INFO"]
        return @app.call(env) if path.start_with?("/api/") || !%w[GET HEAD].include?(env["REQUEST_METHOD"])
        # Built files carry a hash of their content in the name, so they never change.
        return with(@files.call(env), "public, max-age=#{YEAR_SECONDS}, immutable") if path.start_with?("/assets/")
        return with(@files.call(env), "public, max-age=3600") if path.match?(/\A\/[\w-]+\.\w+\z/) && File.file?(File.join(FOLDER, path))

        with(@files.call(env.merge("PATH_INFO" => "/index.html")), "no-cache")
      end

      private

      def with(answer, caching)
        status, headers, body = answer
        [status, headers.merge("cache-control" => caching), body]
      end
    end
  end
end
