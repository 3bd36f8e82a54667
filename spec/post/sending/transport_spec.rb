# frozen_string_literal: true

RSpec.shared_examples "a mail transport" do
  it "answers with an outcome and never raises" do
    expect(transport.deliver("Subject: x\r\n\r\nx\r\n", from: "a@b.example", to: "c@d.example")).to be_a(Post::Outcomes::Accepted)
  end
end

RSpec.describe Post::SmtpTransport do
  def with_server(script)
    server = RudeServer.new(script)
    transport = described_class.new(host: "127.0.0.1", port: server.port, timeout_seconds: 3)
    yield transport
  ensure
    transport&.close
    server&.close
  end

  def outcome(script) =
    with_server(script) { |transport| transport.deliver("Subject: x\r\n\r\nwords\r\n", from: "a@b.example", to: "c@d.example") }

  it_behaves_like "a mail transport" do
    let(:server) { RudeServer.new({}) }
    let(:transport) { described_class.new(host: "127.0.0.1", port: server.port) }

    after do
      transport.close
      server.close
    end
  end

  it "tells a refusal for good from one for now" do
    expect(outcome("RCPT" => "550 no such mailbox")).to have_attributes(
      class: Post::Outcomes::Refused,
      for_good: true,
      words: /no such mailbox/
    )
    expect(outcome("RCPT" => "451 later")).to have_attributes(class: Post::Outcomes::Refused, for_good: false)
    expect(outcome("." => "554 not this text")).to have_attributes(class: Post::Outcomes::Refused, for_good: true)
  end

  it "takes a fresh connection when the kept one was ended meanwhile, and sends the letter once" do
    ["421 closing, you were idle", :drop].each do |ending|
      with_server("MAIL" => ["250 ok", ending]) do |transport|
        outcomes = Array.new(3) { transport.deliver("Subject: x\r\n\r\nwords\r\n", from: "a@b.example", to: "c@d.example") }

        expect(outcomes.map(&:class)).to eq([Post::Outcomes::Accepted] * 3)
      end
    end
    expect(outcome("MAIL" => "421 always busy")).to have_attributes(class: Post::Outcomes::Refused, for_good: false)
  end

  it "is in doubt when the line breaks after the text, and only then" do
    expect(outcome("." => :drop)).to be_a(Post::Outcomes::Doubtful)
    expect(outcome("RCPT" => :drop)).to be_a(Post::Outcomes::Unreachable)
    expect(
      described_class.new(host: "127.0.0.1", port: Processes::Ports.any).deliver("x", from: "a@b.example", to: "c@d.example")
    ).to be_a(Post::Outcomes::Unreachable)
  end

  it "goes on with the same connection after a refusal" do
    with_server("RCPT" => "550 no") do |transport|
      2.times { expect(transport.deliver("x\r\n", from: "a@b.example", to: "c@d.example")).to be_a(Post::Outcomes::Refused) }
    end
  end
end

RSpec.describe ToldTransport do
  it_behaves_like("a mail transport") { let(:transport) { described_class.new(Post::Outcomes::Accepted.new("250")) } }
end
