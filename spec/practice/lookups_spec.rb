# frozen_string_literal: true

require "puma"
require "rack/mock"
require "socket"

RSpec.describe "the practice weather service" do
  let(:weather) { Rack::MockRequest.new(Practice::Weather.new(wait: ->(_) {})) }

  def ask(path) = weather.get(path).then { |response| [response.status, JSON.parse(response.body)] }

  it "has the same weather for the same city and day, whoever asks" do
    status, today = ask("/weather?city=York&day=2026-05-12")

    expect([status, today.keys]).to eq([200, %w[words celsius rain]])
    expect(ask("/weather?city=%20york&day=2026-05-12").last).to eq(today)
    expect(Array.new(30) { |n| ask("/weather?city=York&day=2026-05-#{format("%02d", n + 1)}").last["words"] }.uniq.size).to be > 4
    expect(ask("/weather?city=York&day=2026-01-12").last["celsius"]).to be < 8
  end

  it "does not know every city, and reads only days" do
    expect(
      [
        ask("/weather?city=Nowhere&day=2026-05-12").first,
        ask("/weather?day=2026-05-12").first,
        ask("/weather?city=York&day=soon").first,
        ask("/tides?city=York").first
      ]
    ).to eq([404, 404, 400, 404])
  end
end

RSpec.describe Lookups::HttpAdapter do
  service = Core::Letters::Lookups::WEATHER
  day = Date.new(2026, 5, 12)

  # Runs an application on a port of its own. Only who is to be given up is given up soon.
  def serve(app, seconds: 60)
    server = Puma::Server.new(app, nil, min_threads: 1, max_threads: 4, log_writer: Puma::LogWriter.strings)
    port = server.add_tcp_listener("127.0.0.1", 0).addr[1]
    server.run
    yield described_class.new("http://127.0.0.1:#{port}", seconds: seconds)
  ensure
    server&.stop(true)
  end

  it "asks over HTTP, and takes what it is told" do
    serve(Practice::Weather.new) do |adapter|
      expect(adapter.ask(service, "York", day)).to have_attributes(known?: true, facts: include("words", "celsius", "rain"))
      expect(adapter.ask(service, "Nowhere", day)).to have_attributes(
        known?: false,
        reason: "the weather service does not know this",
        down: false
      )
    end
  end

  it "never waits for a service that hangs" do
    stop = Queue.new
    serve(Practice::Weather.new(wait: ->(_) { stop.pop }), seconds: 0.3) do |adapter|
      answer = adapter.ask(service, "Slowmere", day)
      stop << :go
      expect(answer).to have_attributes(reason: "the weather service did not answer in time", down: true)
    end
  end

  it "has a stated result for whatever else goes wrong" do
    {
      [500, {}, ["x"]] => /answered 500/,
      [200, {}, ["not json"]] => /cannot be read/,
      [200, {}, ["[1]"]] => /cannot be read/,
      [200, {}, ["{\"words\":\"#{"x" * 20_000}\"}"]] => /cannot be read/
    }.each { |response, reason| serve(->(_) { response }) { |adapter| expect(adapter.ask(service, "York", day).reason).to match(reason) } }
    closed = TCPServer.new("127.0.0.1", 0).then { |server| server.addr[1].tap { server.close } }
    expect(described_class.new("http://127.0.0.1:#{closed}").ask(service, "York", day)).to have_attributes(
      reason: /cannot be reached/,
      down: true
    )
  end
end
