# frozen_string_literal: true

require "mail"
require "stringio"

RSpec.describe "letters on their way out" do
  let(:maren) { make_account }
  let!(:mailbox) { make_mailbox(account_id: maren.id, address: "maren@ternandfallow.example") }
  let(:accepted) { ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")) }
  let(:person) { make_person(first_name: "Łucja") }
  let(:letter) { make_letter(subject: "For {{first name}}", body: "Dear {{first name}},\n\nHow is {{city}}?") }

  before { Records::Firm.save(name: firm.name, postal_address: firm.postal_address) }

  def send_all(sequence, at: now + 86_400)
    start(sequence, at: now - 3600)
    worker(transport: accepted).dispatch_due(at)
    accepted.delivered.map { |one| Mail.new(one[:raw]) }
  end

  it "carry files beside their two parts, under any name" do
    Work::TakeAttachment.new(letter, moment).call(StringIO.new("%PDF-1.4 \xFF".b), name: "Über uns.pdf")
    mail = send_all(make_sequence(people: [person], letters: [letter], mailbox: mailbox)).first

    expect([mail.mime_type, mail.parts.map(&:mime_type)]).to eq(["multipart/mixed", ["multipart/alternative", "application/pdf"]])
    expect([mail.attachments.first.filename, mail.attachments.first.decoded.b]).to eq(["Über uns.pdf", "%PDF-1.4 \xFF".b])
    expect([mail.text_part.decoded, mail.html_part.decoded]).to all(include("How is York?"))
  end

  it "give each member the version that is theirs, and say which" do
    sequence = make_sequence(people: Array.new(4) { make_person }, letters: [letter], mailbox: mailbox)
    sequence.steps.first.update(other: {"what" => "subject", "subject" => document("Another for {{first name}}")})
    subjects = send_all(sequence.refresh).map(&:subject)

    expect(subjects.tally).to eq("For Ana" => 2, "Another for Ana" => 2)
    expect(Records::Delivery.where(version: "b").select_map(:subject)).to eq(["Another for Ana"] * 2)
  end

  it "are designed in the firm's look, with its pictures from our own address and its signature in place" do
    picture =
      Records::Picture.create(
        key: "k" * 22,
        name: "Room",
        digest: "d",
        mime: "image/png",
        width: 1200,
        height: 500,
        bytes: 1,
        data: Sequel.blob("x"),
        created_at: now
      )
    maren.update(signature: doc(para("Maren, with warm wishes")))
    Records::Firm.save(look: {"accent" => "#7a2e1d"})
    letter.update(
      manner: "designed",
      body:
        doc(
          para("Dear ", chip("person.first_name")),
          {"type" => "signature"},
          {"type" => "picture", "attrs" => {"picture_id" => picture.id, "alt" => words("A room"), "href" => [], "width" => 100}},
          {"type" => "button", "attrs" => {"href" => words("https://ternandfallow.example/a")}, "content" => words("Listen")}
        )
    )
    mail = send_all(make_sequence(people: [person], letters: [letter], mailbox: mailbox)).first
    page = Nokogiri::HTML5.parse(mail.html_part.decoded)

    expect(page.at_css("img")["src"]).to eq("#{configuration.public_url}/p/#{"k" * 22}.png")
    expect(page.at_css("td[bgcolor='#7a2e1d'] a")["href"]).to start_with("#{configuration.public_url}/c/")
    expect(page.text.index("Maren, with warm wishes")).to be < page.text.index("Listen")
    expect(mail.text_part.decoded.delete("\r")).to include(
      "Dear Łucja\n\nMaren, with warm wishes\n\n[A room]\n\nListen: https://ternandfallow.example/a"
    )
  end

  it "are not sent with a gap that a passage for some opened, and say which" do
    letter.update(body: doc(shown_if({"field" => "person.city", "is" => "one_of", "value" => ["York"]}, [para(chip("person.country"))])))
    sequence = make_sequence(people: [person], letters: [letter], mailbox: mailbox)

    expect { start(sequence) }.to raise_error(Invalid) { |error| expect(error.data[:remarks]).to include(include(code: "gaps", count: 1)) }
    Work::WriteIntoLetter.new(sequence.steps.first, person, moment).fill("person.country", "Poland")
    expect(send_all(sequence).first.text_part.decoded).to start_with("Poland")
  end

  describe "as tests" do
    def ask(*accounts) = Work::TestLetters.ask(letter, person, accounts, moment: moment(account: maren))

    def send_tests(transport = accepted) = worker(transport: transport).send_tests(now)

    it "are marked, written as one person would get them, and followed by nobody" do
      test = ask(maren).first
      send_tests
      mail = Mail.new(accepted.delivered.first[:raw])

      expect([mail.subject, mail.to, mail["X-Nimble-Test"].value, mail["Auto-Submitted"].value]).to eq(
        ["Test: For Łucja", [maren.email], "yes", "auto-generated"]
      )
      expect(mail.html_part.decoded).to include("Dear Łucja").and match(%r{/u/test"})
      expect(mail.html_part.decoded).not_to match(%r{/[oc]/})
      expect(mail["List-Unsubscribe"]).to be_nil
      expect(test.refresh).to have_attributes(state: "sent", message_id: mail.message_id)
      expect([Records::Event.count, Records::Delivery.count]).to eq([0, 0])
    end

    it "name what is missing instead of passing over it" do
      person.update(city: nil)
      ask(maren)
      send_tests

      expect(Mail.new(accepted.delivered.first[:raw]).parts.map(&:decoded)).to all(include("How is [city is missing]?"))
    end

    it "go once, and say why when they do not" do
      test = ask(maren).first
      2.times { send_tests(ToldTransport.new(Post::Outcomes::Refused.said("550 no such mailbox", :recipient))) }

      expect(test.refresh).to have_attributes(state: "failed", reason: a_string_including("550"))
      expect(send_tests).to eq(0)
    end

    it "do not stay on the wire when a worker is lost with them" do
      lost, held, old = Array.new(3) { ask(maren).first }
      dead = ToldTransport.new(Post::Outcomes::Accepted.new("250"))
      allow(dead).to receive(:deliver).and_raise(NoMemoryError)
      expect { send_tests(dead) }.to raise_error(NoMemoryError)
      expect(lost.refresh.state).to eq("on_wire")
      worker.recover
      expect(lost.refresh.state).to eq("on_wire")

      held.update(state: "on_wire", leased_until: Time.utc(2000))
      old.update(state: "on_wire", leased_until: nil) # as an older version left it
      Post::TestLetters.recover
      expect([held, old].map { |test| test.refresh.state }).to eq(%w[failed failed])
      expect(held.reason).to include("Send it again")
    end

    it "say why when they cannot be made, and the next one goes" do
      first, second = Array.new(2) { ask(maren).first }
      first.update(address: "mailto:x@y.example")
      send_tests

      expect([first, second].map { |test| test.refresh.state }).to eq(%w[failed sent])
    end

    it "are refused for nobody, for too many, and for an empty letter" do
      expect { ask }.to raise_error(Invalid)
      expect { ask(*Array.new(6) { make_account }) }.to raise_error(Invalid)
      letter.update(body: doc)
      expect { ask(maren) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:no_text) }
    end
  end
end
