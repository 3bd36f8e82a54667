# frozen_string_literal: true

require "puma"

module NimbleLetter
  module Processes
    # The practice lookups as a process of its own: outside services that ship with the application.
    class LookupServer
      def initialize(configuration)
        @configuration = configuration
      end

      # Serves until told to end.
      def run
        Signals.listen
        Signals.end_with(@configuration.parent) if @configuration.parent
        Ports.free!(@configuration.lookup_port, "LOOKUP_PORT", "the practice lookups")
        server = Puma::Server.new(Practice::Weather.new, nil, min_threads: 1, max_threads: 8, log_writer: Puma::LogWriter.strings)
        server.add_tcp_listener("127.0.0.1", @configuration.lookup_port)
        server.run
        Signals.wait
        server.stop(true)
      end
    end
  end
end
