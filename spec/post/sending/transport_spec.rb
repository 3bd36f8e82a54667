# frozen_string_literal: true

# What every way of handing letters over keeps to: it answers with an outcome and raises nothing, it says "accepted" only of
# what the other side has, and it is ready for the next letter. Given `transport` and, for real ones, `server`.
RSpec.shared_examples "a mail transport" do
  it "says of a letter that was taken that it was taken" do
    expect(transport.deliver("Subject: x\r\n\r\nx\r\n", from: "a@b.example", to: "c@d.example")).to be_a(Post::Outcomes::Accepted)
  end
end

RSpec.shared_examples "a transport that talks to a mail server" do
  # A part of a second is for ever for a server that says nothing.
  let(:patience) { {connect: 0.4, command: 0.4, text: 0.4, end: 0.4} }
  text = "Subject: x\r\n\r\nwords\r\n"

  def with_server(script, **given)
    server = RudeServer.new(script)
    transport = described_class.new(host: "127.0.0.1", port: server.port, patience: {**patience, **given})
    yield transport, server
  ensure
    transport&.close
    server&.close
  end

  define_method(:send_to) { |transport, words = text| transport.deliver(words, from: "a@b.example", to: "c@d.example") }

  accepted, refused, unreachable, doubtful =
    Post::Outcomes::Accepted, Post::Outcomes::Refused, Post::Outcomes::Unreachable, Post::Outcomes::Doubtful

  # What the server does, when, and what that means. Only the first letter meets it; the second one must arrive.
  {
    "a greeting for later" => [{"greeting" => ["450 not now"]}, refused, {for_good?: false, about_address?: false}],
    "a greeting that turns away" => [{"greeting" => ["554 5.7.1 nobody from you"]}, refused, {for_good?: false, about_address?: false}],
    "a greeting of garbage" => [{"greeting" => ["\xFF\xFEhello".b]}, unreachable, {}],
    "421 instead of a greeting" => [{"greeting" => [{last: "421 too busy"}]}, refused, {for_good?: false, about_address?: false}],
    "421 after EHLO" => [{"EHLO" => ["421 no"], "HELO" => [{last: "421 no"}]}, refused, {for_good?: false, about_address?: false}],
    "421 after MAIL" => [{"MAIL" => [{last: "421 closing"}]}, refused, {for_good?: false, about_address?: false}],
    "no greeting" => [{"greeting" => [:silence]}, unreachable, {}],
    "hanging up instead of a greeting" => [{"greeting" => [:drop]}, unreachable, {}],
    "no EHLO and no HELO" => [{"EHLO" => ["550 no"], "HELO" => ["550 no"]}, refused, {for_good?: false, about_address?: false}],
    "silence after EHLO" => [{"EHLO" => [:silence]}, unreachable, {}],
    "a sender refused for now" => [{"MAIL" => ["451 4.7.1 later"]}, refused, {for_good?: false, about_address?: false}],
    "a sender refused" => [{"MAIL" => ["550 5.1.8 sender unknown"]}, refused, {for_good?: false, about_address?: false}],
    "garbage after MAIL" => [{"MAIL" => ["what?"]}, unreachable, {}],
    "an unknown recipient" => [{"RCPT" => ["550 5.1.1 no such user"]}, refused, {for_good?: true, about_address?: true}],
    "an unknown recipient in plain words" => [{"RCPT" => ["550 User unknown"]}, refused, {for_good?: true, about_address?: true}],
    "relaying denied" => [{"RCPT" => ["554 5.7.1 relaying denied"]}, refused, {for_good?: true, about_address?: false}],
    "a full mailbox" => [{"RCPT" => ["552 5.2.2 mailbox full"]}, refused, {for_good?: false, about_address?: false}],
    "a recipient refused for now" => [{"RCPT" => ["450 4.2.0 greylisted"]}, refused, {for_good?: false, about_address?: false}],
    "garbage after RCPT" => [{"RCPT" => ["2500 maybe"]}, unreachable, {}],
    "hanging up at RCPT" => [{"RCPT" => [:drop]}, unreachable, {}],
    "silence after RCPT" => [{"RCPT" => [:silence]}, unreachable, {}],
    "421 after RCPT" => [{"RCPT" => [{last: "421 closing"}]}, refused, {for_good?: false, about_address?: false}],
    "no text wanted" => [{"DATA" => ["554 no"]}, refused, {for_good?: true, about_address?: false}],
    "no text wanted now" => [{"DATA" => ["451 no"]}, refused, {for_good?: false}],
    "250 where 354 belongs" => [{"DATA" => ["250 ok"]}, unreachable, {}],
    "hanging up at DATA" => [{"DATA" => [:drop]}, unreachable, {}],
    "421 at DATA" => [{"DATA" => [{last: "421 closing"}]}, refused, {for_good?: false}],
    "a letter too big, said after the end" => [{"." => ["552 5.3.4 too big"]}, refused, {for_good?: true, about_address?: false}],
    "spam, said after the end" => [{"." => ["554 5.7.1 looks like spam"]}, refused, {for_good?: true, about_address?: false}],
    "an unknown user, said after the end" => [{"." => ["550 5.1.1 user unknown"]}, refused, {for_good?: true, about_address?: true}],
    "later, said after the end" => [{"." => ["451 4.3.0 later"]}, refused, {for_good?: false, about_address?: false}],
    "421 after the end" => [{"." => [{last: "421 closing"}]}, refused, {for_good?: false}],
    "354 after the end" => [{"." => ["354 go on"]}, doubtful, {}],
    "garbage after the end" => [{"." => ["2OO ok"]}, doubtful, {}],
    "two answers in one after the end" => [{"." => ["250-taken\r\n550 not taken"]}, doubtful, {}],
    "silence after the end" => [{"." => [:silence]}, doubtful, {}],
    "hanging up after the end" => [{"." => [:drop]}, doubtful, {}]
  }.each do |behaviour, (script, expected, traits)|
    it "#{behaviour}: #{expected.name.split("::").last.downcase}, and the next letter arrives" do
      with_server(script) do |transport, server|
        outcome = send_to(transport)
        expect(outcome).to have_attributes(class: expected, **traits)
        before = server.taken.size
        expect(before).to eq((expected == accepted) ? 1 : 0)

        expect(send_to(transport, "Subject: y\r\n\r\nsecond\r\n")).to be_a(accepted)
        expect(server.taken.drop(before)).to eq(["Subject: y\r\n\r\nsecond\r\n"])
      end
    end
  end

  # Larger than what two machines keep between them, so that the end is not on its way yet.
  large = "Subject: x\r\n\r\n#{"a line of it\r\n" * 1_500_000}"

  {
    "hangs up" => [{"text" => [:drop]}, unreachable, {}],
    "says that it is too big" => [{"text" => [{last: "552 5.3.4 too big"}]}, refused, {for_good?: true, about_address?: false}],
    "says 250 too early" => [{"text" => [{last: "250 taken"}]}, unreachable, {}],
    "stops listening" => [{"text" => [:silence]}, unreachable, {}]
  }.each do |behaviour, (script, expected, traits)|
    it "knows that the end never left when the server #{behaviour} in the middle of a text" do
      with_server(script, text: 2) do |transport, server|
        expect(send_to(transport, large)).to have_attributes(class: expected, **traits)
        expect(server.taken).to eq([])
        expect(send_to(transport)).to be_a(accepted)
        expect(server.taken).to eq([text])
      end
    end
  end

  it "waits no longer for an answer that trickles in than for none" do
    dripping = TCPServer.new("127.0.0.1", 0)
    thread = Thread.new { dripping.accept.then { |socket| loop { socket.write("2") && sleep(0.05) } } }
    transport = described_class.new(host: "127.0.0.1", port: dripping.addr[1], patience: patience)

    expect(send_to(transport)).to be_a(unreachable)
  ensure
    thread&.kill
    dripping&.close
  end

  it "keeps a text as it is: dots are doubled, and a bare line feed ends no letter" do
    with_server({}) do |transport, server|
      send_to(transport, "Subject: x\n\n.\r\n..\nMAIL FROM:<x@y.example>\rthe end")

      expect(server.taken).to eq(["Subject: x\r\n\r\n..\r\n...\r\nMAIL FROM:<x@y.example>\r\nthe end\r\n"])
    end
  end

  it "takes a fresh connection when the kept one was ended meanwhile, and sends the letter once" do
    ["421 closing, you were idle", :drop].each do |ending|
      with_server({"MAIL" => ["250 ok", ending]}) do |transport, server|
        expect(Array.new(3) { send_to(transport).class }).to eq([accepted] * 3)
        expect([server.taken.size, server.visits]).to eq([3, 2])
      end
    end
  end

  it "keeps one connection for many letters, a refused recipient among them" do
    with_server({"RCPT" => ["250 ok", "550 5.1.1 no", "250 ok"]}) do |transport, server|
      expect(Array.new(3) { send_to(transport).class }).to eq([accepted, refused, accepted])
      expect(server.visits).to eq(1)
    end
  end

  it "is not reached where nobody listens" do
    expect(send_to(described_class.new(host: "127.0.0.1", port: Processes::Ports.any))).to be_a(unreachable)
  end

  it "lets go at once when its line is broken off: due again before the end, in doubt after it" do
    {"RCPT" => unreachable, "." => doubtful}.each do |place, expected|
      with_server({place => [:silence]}, command: 60, end: 60) do |transport, _server|
        waiting = Thread.new { send_to(transport) }
        transport.break_off until waiting.join(0.05)
        expect(waiting.value).to be_a(expected)
      end
    end
  end
end

RSpec.describe Post::SmtpTransport do
  it_behaves_like "a transport that talks to a mail server"

  it_behaves_like "a mail transport" do
    let(:server) { RudeServer.new }
    let(:transport) { described_class.new(host: "127.0.0.1", port: server.port) }

    after do
      transport.close
      server.close
    end
  end

  it "writes a domain of other letters in its own way, and refuses what no letter can go to" do
    expect(Post::WireAddress.of("ana@bücher.example")).to eq("ana@xn--bcher-kva.example")
    expect(Post::WireAddress.read("ana@xn--bcher-kva.example")).to eq("ana@bücher.example")
    expect { Post::WireAddress.of("mailto:x@y.example") }.to raise_error(Invalid)
  end
end

RSpec.describe ToldTransport do
  it_behaves_like("a mail transport") { let(:transport) { described_class.new(Post::Outcomes::Accepted.new("250")) } }
end
