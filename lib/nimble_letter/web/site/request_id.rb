# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Web
    # Gives each request a name, under which the log speaks of it and the page of what went wrong. Slow ones are noted; where they led
    # is told without what was asked for, and without the keys in links.
    class RequestId
      NAME = "nimble.request"
      SLOW_MS = 1000.0
      # Parts of a path that are names of ours or numbers; keys of links and whatever somebody typed are not.
      OURS = /\A(?:[a-z-]{1,30}|\d+)?\z/

      def initialize(app) = @app = app

      def call(env)
        env[NAME] = SecureRandom.alphanumeric(8).downcase
        begun = now
        Log.with(request: env[NAME]) { @app.call(env).tap { |status, *| note(env, status, now - begun) } }
      end

      private

      def note(env, status, took)
        path = env["PATH_INFO"].to_s.split("/", -1).map { |part| part.match?(OURS) ? part : Log::LEFT_OUT }.join("/")
        words = "#{env["REQUEST_METHOD"]} #{path} #{status}"
        (took > SLOW_MS) ? Log.info(words, duration: took) : Log.debug(words, duration: took)
      end

      def now = Process.clock_gettime(Process::CLOCK_MONOTONIC, :float_millisecond)
    end
  end
end
