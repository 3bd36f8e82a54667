# frozen_string_literal: true

# A transport that answers as it is told, and remembers what it was given.
class ToldTransport
  attr_reader :delivered

  def initialize(*answers)
    @answers, @delivered = answers, []
  end

  def deliver(raw, from:, to:)
    @delivered << {raw: raw, from: from, to: to}
    (@answers.size > 1) ? @answers.shift : @answers.first
  end

  def close = nil
end

# A mail server of a few lines that says what it is told, for what no real one does on request. Of several answers to a word
# it gives one each time it hears it.
class RudeServer
  def initialize(script)
    @server = TCPServer.new("127.0.0.1", 0)
    @thread = Thread.new { loop { talk(@server.accept, script) } }
  end

  def port = @server.addr[1]

  def close
    @thread.kill
    @server.close
  end

  private

  def talk(socket, script)
    socket.write("220 rude\r\n")
    while (line = socket.gets)
      word = line[/\A\w+/].to_s.upcase
      if word == "DATA" && script["DATA"].nil?
        socket.write("354 go on\r\n")
        until socket.gets == ".\r\n"; end
        return socket.close if script["."] == :drop

        socket.write("#{script.fetch(".", "250 taken")}\r\n")
      else
        answer = script[word].is_a?(Array) ? script[word].shift : script[word]
        return socket.close if answer == :drop

        socket.write("#{answer || "250 ok"}\r\n")
      end
    end
  rescue IOError, SystemCallError
    nil
  end
end
