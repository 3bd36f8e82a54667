# frozen_string_literal: true

require "socket"

module NimbleLetter
  module Processes
    # Ports on loopback.
    module Ports
      # @raise [Error] saying which variable to change when somebody else listens there
      def self.free!(port, variable, what)
        TCPServer.new("127.0.0.1", port).close
      rescue Errno::EADDRINUSE
        raise Error.new(
          "Port #{port}, meant for #{what}, is in use. Set #{variable} to another, for example #{variable}=#{port + 100}.",
          code: :port_busy
        )
      end

      # @return [Integer] one that is free right now
      def self.any
        server = TCPServer.new("127.0.0.1", 0)
        server.addr[1]
      ensure
        server&.close
      end
    end
  end
end
