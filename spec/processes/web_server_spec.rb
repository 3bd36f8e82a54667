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

  describe "by the head alone, while the body has not come" do
    before { described_class::HeadFirst.first_look = Web::FirstLook.new(configuration) }

    after { described_class::HeadFirst.first_look = nil }

    def asking(path, *more) = ["POST #{path} HTTP/1.1", "Host: 127.0.0.1", "Content-Type: application/json", *more, "", ""].join("\r\n")

    def cookie(secret = configuration.secret) =
      "Cookie: nimble=#{Rack::Utils.escape(Rack::Session::Encryptor.new(secret, purpose: "nimble").encrypt({"session_id" => "x"}))}"

    it "refuses what says its size in two ways, what is too large, and what nobody who is signed in sends" do
      said = {
        asking("/u/token", "Content-Length: 5", "Transfer-Encoding: chunked") => [400, "unreadable"],
        asking("/auth/login", "Content-Length: 20000") => [413, "This is larger than 16 kB."],
        asking("//u//token", "Content-Length: 20000") => [413, "This is larger than 16 kB."],
        asking("/api/people", "Content-Length: 20") => [401, "You are signed out."],
        asking("/api/people", "Transfer-Encoding: chunked") => [401, "You are signed out."],
        asking("/api/people?x=1", "Content-Length: 20", "Cookie: nimble=made-up") => [401, "You are signed out."],
        asking("/api/people", "Content-Length: 20", cookie("another secret" * 8)) =>
          [401, "You are signed out."]
      }
      said.each do |head, (status, words)|
        told = talk(head)
        expect(told).to start_with("HTTP/1.1 #{status}").and(include(words, "application/json", "nosniff")), head
      end
    end

    it "answers who is still sending" do
      expect(talk(asking("/auth/login", "Content-Length: 3000000"), "x" * 3_000_000)).to start_with("HTTP/1.1 413")
    end

    it "answers others while many of the refused send nothing more, and each of these" do
      refused = asking("/api/people", "Content-Length: 20")
      sockets = Array.new(80) { TCPSocket.new("127.0.0.1", port).tap { |one| one.write(refused) } }
      expect(talk(asking("/auth/login", "Connection: close", "Content-Length: 2"), "{}")).to start_with("HTTP/1.1 503")
      expect(sockets.map { |one| one.readpartial(12) }.uniq).to eq(["HTTP/1.1 401"])
    ensure
      sockets&.each(&:close)
    end

    it "lets the body of everybody else come" do
      expect(talk(asking("/api/people", "Connection: close", "Content-Length: 2", cookie), "{}")).to start_with("HTTP/1.1 503")
      expect(talk(asking("/auth/login", "Connection: close", "Content-Length: 2"), "{}")).to start_with("HTTP/1.1 503")
    end
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
