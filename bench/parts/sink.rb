# frozen_string_literal: true

module Bench
  # Takes letters and answers at once; nothing else.
  class Sink
    attr_reader :port

    def initialize
      server = TCPServer.new("127.0.0.1", 0)
      @port = server.addr[1]
      @pid = fork { loop { Thread.new(server.accept) { |socket| talk(socket) } } }
      server.close
    end

    def close
      Process.kill(:KILL, @pid)
      Process.wait(@pid)
    end

    private

    def talk(socket)
      socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, 1)
      socket.write("220 sink\r\n")
      while (line = socket.gets)
        if line.start_with?("DATA")
          socket.write("354 go on\r\n")
          line = socket.gets until line == ".\r\n"
        end
        socket.write("250 ok\r\n")
      end
    rescue SystemCallError
      nil
    end
  end
end
