# frozen_string_literal: true

require "json"

RSpec.describe Log do
  def failing
    yield
  rescue => error # rubocop:disable Style/RescueStandardError -- whatever it is, it is to be logged
    error
  end

  it "leaves out what an error says of people: quoted well or badly, in a record, or an address" do
    person = Struct.new(:first_name, :email).new("Zoë", "zoe@mandelokke.example")
    errors = [
      failing { person.no_such_thing },
      failing { Integer("Zoë Mandeløkke") },
      failing { {}.fetch("zoe@mandelokke.example") },
      RuntimeError.new("Duplicate entry 'zoe@mandelokke.example' for key 'email'"),
      RuntimeError.new("550 <zoe@mandelokke.example>: no such user; 'It\\'s Zoë' “Mandeløkke”"),
      RuntimeError.new("bytes \xff of zoe@mandelokke.example"),
      RuntimeError.new("Duplicate entry 'D'Zoë Mandeløkke' for key 'name'"),
      RuntimeError.new("error near 'INSERT INTO people\nVALUES (\"Zoë"),
      RuntimeError.new("first of all\nthen 'Zoë")
    ]
    said = logged { errors.each { |error| described_class.error("a round failed", error) } }

    expect(said.lines.grep(/a round failed/).size).to eq(errors.size)
    expect(said).to include("NoMethodError", "KeyError", "ArgumentError")
    expect(said).not_to match(/zoë|zoe|mandel/i)
  end

  it "keeps what an error says before that, apostrophes of its own among it" do
    said = logged { described_class.error("away", RuntimeError.new("Can't connect to the server's port 4781, said 'zoe'")) }
    expect(said).to include("Can't connect to the server's port 4781, said …")
  end

  it "is one line, whatever somebody puts into a path" do
    expect(logged { described_class.info("GET /a\r\n2026-01-01 I spec[1] forged 200") }.lines.size).to eq(1)
  end

  it "says when, which process, and under what name, in a line for people or in JSON" do
    line = logged { described_class.with(request: "abc") { described_class.info("GET /api/people 200", duration: 12.34) } }
    expect(line).to match(/\A\d{4}-\d\d-\d\d [\d:.]+ I spec\[#{Process.pid}\] request=abc 12\.3ms GET \/api\/people 200\n\z/)

    json = logged(json: true) { described_class.with(request: "abc") { described_class.warn("the database is away", tries: 2) } }
    told = JSON.parse(json)
    expect(told).to include("level" => "warn", "application" => "spec", "pid" => Process.pid, "message" => "the database is away")
    expect(told).to include("named_tags" => {"request" => "abc"}, "payload" => {"tries" => 2})
  end
end
