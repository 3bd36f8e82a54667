# frozen_string_literal: true

require "socket"

# What reaches the web server before it is a request.
RSpec.describe Processes::WebServer do
  let(:port) { Processes::Ports.any }
  let(:server) { described_class.new(configuration).send(:puma) }

  before do
    stub_const("NimbleLetter::Web::BodyLimit::MOST_BYTES", 64 * 1024)
    server.add_tcp_listener("127.0.0.1", port)
    server.run
  end

  after { server.stop(true) }

  def talk(*lines)
    socket = TCPSocket.new("127.0.0.1", port)
    lines.each { |line| socket.write(line) }
    socket.read
  rescue Errno::EPIPE, Errno::ECONNRESET
    "cut off"
  ensure
    socket&.close
  end

  def head(*more) = ["POST /auth/login HTTP/1.1", "Host: 127.0.0.1", "Connection: close", *more, "", ""].join("\r\n")

  it "gathers no more than is taken, whether its size was said or it comes in pieces" do
    piece = "4000\r\n#{"x" * 0x4000}\r\n"
    expect(talk(head("Transfer-Encoding: chunked"), piece * 8)).to match(/\AHTTP\/1.[01] 400|cut off/)
    expect(talk(head("Transfer-Encoding: chunked"), piece * 3, "0\r\n\r\n")).to start_with("HTTP/1.1 503") # no records yet
    expect(talk(head("Content-Length: 70000"), "x" * 70_000)).to match(/\AHTTP\/1.[01] 413|cut off/)
  end

  it "tells what never became a request as everything else is told" do
    ["GET /?#{"q" * 20_000} HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n", "nonsense\r\n\r\n"].each do |words|
      told = talk(words)
      expect(told).to match(/\AHTTP\/1.[01] (400|501)/), words[0, 60]
      expect(told).to include("application/json", "unreadable")
      expect(told).not_to include("<html")
    end
  end
end
