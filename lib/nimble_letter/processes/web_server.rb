# frozen_string_literal: true

require "puma"

module NimbleLetter
  module Processes
    # The web server: API, pages that letters lead to, and the screens. It answers from the beginning, with "not just now" as
    # long as the database is away.
    class WebServer
      THREADS = 8

      def initialize(configuration)
        @configuration = configuration
        @site = Web::Site.waiting
      end

      # Serves until told to end.
      def run
        Signals.listen
        Ports.free!(@configuration.port, "PORT", "the web server")
        server = puma
        server.add_tcp_listener("127.0.0.1", @configuration.port)
        server.run
        if Part.begin(@configuration)
          @site = Web::Site.app(@configuration, clock: Practice::Clock.new)
          Signals.wait
        end
        server.stop(true)
      end

      private

      def puma
        Puma::Server.new(
          ->(env) { @site.call(env) },
          nil,
          min_threads: 2,
          max_threads: THREADS,
          log_writer: Puma::LogWriter.strings
        )
      end
    end
  end
end
