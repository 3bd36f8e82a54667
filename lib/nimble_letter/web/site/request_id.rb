# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Web
    # Gives each request a name, under which the log speaks of it and the page of what went wrong. Slow ones are noted; where they led
    # is told without what was asked for, and without the keys in links.
    class RequestId
      NAME = "nimble.request"
      SLOW_MS = 1000.0
      # Behind it a link has its key.
      KEYED = %r{\A/[coup]/}

      def initialize(app) = @app = app

      def call(env)
        env[NAME] = SecureRandom.alphanumeric(8).downcase
        begun = now
        Log.with(request: env[NAME]) { @app.call(env).tap { |status, *| note(env, status, now - begun) } }
      end

      private

      def note(env, status, took)
        words = "#{env["REQUEST_METHOD"]} #{env["PATH_INFO"].to_s[KEYED] || env["PATH_INFO"]} #{status}"
        (took > SLOW_MS) ? Log.info(words, duration: took) : Log.debug(words, duration: took)
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC, :float_millisecond)
    end
  end
end
