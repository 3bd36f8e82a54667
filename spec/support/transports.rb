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

# A mail server that behaves as it is told, for what no real one does on request. The script gives an answer by what is heard:
# "greeting", a command's name, "text" (in the middle of the message) or "." (its end). An answer is a line, :drop, :silence,
# or {last: line} for a last word before hanging up. Of several in a list it gives one each time; what is not in the script is
# answered well. A block may be asked instead: it gets what is heard, the line, and a hash of this talk's
# own, and gives an answer or nil.
class RudeServer
  WELL = {"greeting" => "220 rude", "DATA" => "354 go on", "." => "250 taken"}.freeze

  # What it has said yes to after the final dot.
  attr_reader :taken

  # Ends a talk.
  class HungUp < StandardError
  end

  def initialize(script = {}, port: 0, &asked)
    @asked = asked
    @script = script.transform_values { |answer| answer.is_a?(Array) ? answer.dup : [answer] * 100 }
    @taken, @sockets = [], []
    @server = TCPServer.new("127.0.0.1", port)
    @thread = Thread.new { loop { serve(@server.accept) } }
  end

  def port = @server.addr[1]

  # How often somebody came.
  def visits = @sockets.size

  def close
    @thread.kill
    [@server, *@sockets].each(&:close)
  end

  private

  def serve(socket)
    @sockets << socket
    Thread.new do
      talk = {}
      say(socket, "greeting")
      while (line = socket.gets)
        word = line[/\A\w+/].to_s.upcase
        answer = say(socket, word, line, talk)
        read_text(socket, talk) if word == "DATA" && answer.to_s.start_with?("354")
      end
    rescue IOError, SystemCallError, HungUp
      socket.close
    end
  end

  def read_text(socket, talk)
    text = +""
    told = @script["text"]&.any?
    while (line = socket.gets) && line != ".\r\n"
      text << line
      told = say(socket, "text") && false if told
    end
    return unless line

    answer = answer_to(".", nil, talk)
    # Before it says so: whoever hears a yes may look here at once.
    @taken << text if answer.to_s.match?(/\A2\d\d [^\r\n]*\z/)
    speak(socket, answer)
  end

  def answer_to(heard, line = nil, talk = {})
    @asked&.call(heard, line, talk) || (@script.key?(heard) && @script[heard].shift) || WELL.fetch(heard, "250 ok")
  end

  def say(socket, heard, *rest) = answer_to(heard, *rest).tap { |answer| speak(socket, answer) }

  def speak(socket, answer)
    case answer
    when :drop then raise HungUp
    when :silence then sleep
    when Hash
      socket.write("#{answer[:last]}\r\n")
      raise HungUp
    else socket.write("#{answer}\r\n")
    end
  end
end
