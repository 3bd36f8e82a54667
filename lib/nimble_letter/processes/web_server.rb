# frozen_string_literal: true

require "puma"

module NimbleLetter
  module Processes
    # The web server: API, pages that letters lead to, and the screens.
    class WebServer
      def initialize(configuration)
        @configuration = configuration
      end

      # Serves until told to end.
      def run
        Signals.listen
        Records.connect(@configuration)
        Ports.free!(@configuration.port, "PORT", "the web server")
        server =
          Puma::Server.new(
            Web::Site.app(@configuration, clock: Practice::Clock.new),
            nil,
            min_threads: 2,
            max_threads: 8,
            log_writer: Puma::LogWriter.strings
          )
        server.add_tcp_listener("127.0.0.1", @configuration.port)
        server.run
        Signals.wait
        server.stop(true)
      end
    end
  end
end
