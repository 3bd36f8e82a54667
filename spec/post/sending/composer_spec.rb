# frozen_string_literal: true

require "mail"

RSpec.describe "composing a letter" do
  let(:tokens) { Core::Tracking::Token.new("s" * 32) }
  let(:composer) { Post::Composer.new(tokens: tokens, public_url: "https://letters.example") }
  let(:account) { make_account(name: "Idris Vale", phone: "01632 960 118") }
  let(:mailbox) { make_mailbox(address: "idris@ternandfallow.example", name: "Idris Vale, Tern & Fallow", account_id: account.id) }
  let(:delivery) { Records::Delivery.new.tap { |made| made.values[:key] = "abcdefghijklmnopqrstuv" } }
  let(:linked) do
    {
      "type" => "doc",
      "content" => [
        {
          "type" => "paragraph",
          "content" => [
            {
              "type" => "text",
              "text" => "Listen",
              "marks" => [{"type" => "link", "attrs" => {"href" => "https://ternandfallow.example/a?b=1&c=2"}}]
            },
            {"type" => "text", "text" => " or "},
            {
              "type" => "text",
              "text" => "write",
              "marks" => [{"type" => "link", "attrs" => {"href" => "mailto:idris@ternandfallow.example"}}]
            }
          ]
        }
      ]
    }
  end

  def compose(
    letter: make_letter,
    facts: {"person.first_name" => "Ana", "person.city" => "York"},
    to: "Ana Lark",
    line: nil,
    attachments: []
  )
    merged = letter.merge.call(facts, line: line && Core::Letters::Merge::Line.new(line, nil))
    composer.compose(
      delivery.key,
      merged: merged,
      setting: Work::Typesetting.new(letter, firm: firm, base_url: "https://letters.example"),
      mailbox: mailbox,
      to: [to, "ana@copperladle.example"],
      now: now,
      attachments: attachments
    )
  end

  def mail_of(**given) = Mail.new(compose(**given).raw)

  it "names sender and recipient in any script, and keeps the headers in ASCII" do
    mail =
      mail_of(
        to: "水野 さくら, \"Zoë\"",
        letter: make_letter(subject: "Ein Wort über {{first name}}"),
        facts: {
          "person.first_name" => "Łucja"
        }
      )

    expect(mail[:to].display_names).to eq(["水野 さくら, \"Zoë\""])
    expect(mail.from).to eq(["idris@ternandfallow.example"])
    expect(mail[:from].display_names).to eq(["Idris Vale, Tern & Fallow"])
    expect(mail.subject).to eq("Ein Wort über Łucja")
    expect(mail.raw_source[/\A.*?\r\n\r\n/m]).to be_ascii_only
  end

  it "lets no value break out of its header" do
    mail =
      mail_of(
        to: "Ana\r\nBcc: all@firm.example",
        facts: {
          "person.first_name" => "Ana\nX-Evil: 1",
          "person.city" => "York"
        },
        letter: make_letter(subject: "For {{first name}}")
      )

    expect(mail.header.fields.map(&:name)).not_to include("Bcc", "X-Evil")
    expect(mail.subject).to eq("For Ana X-Evil: 1")
    expect(mail.to).to eq(["ana@copperladle.example"])
  end

  it "sends web links through the tracker and leaves others as they are" do
    letter = compose(letter: make_letter.update(body: linked))
    html = Mail.new(letter.raw).html_part.decoded
    targets = html.scan(/href="([^"]+)"/).flatten

    expect(letter.links).to eq(["https://ternandfallow.example/a?b=1&c=2", "mailto:idris@ternandfallow.example"])
    expect(targets[0]).to start_with("https://letters.example/c/")
    expect(tokens.read(targets[0].split("/").last)).to eq([:click, delivery.key, 0])
    expect(targets[1]).to eq("mailto:idris@ternandfallow.example")
    expect(tokens.read(targets[2].split("/").last)).to eq([:unsubscribe, delivery.key, nil])
  end

  it "keeps a copy without tracking, as it looked to its reader" do
    letter = compose(line: "Good to meet you.")

    expect(letter.html).not_to include("letters.example")
    expect(letter.text).to eq(
      "Dear Ana,\n\nGood to meet you.\n\nHow is York?\n\nIdris Vale\nTern & Fallow Acoustics · 01632 960 118\n\n-- \nTern & Fallow " \
      "Acoustics, 4 Felt Yard, York\n"
    )
  end

  it "ends every line with CRLF and keeps lines short enough for any server" do
    raw = compose(facts: {"person.first_name" => "A" * 3000, "person.city" => "York"}).raw

    expect(raw.scan(/(?<!\r)\n/)).to be_empty
    expect(raw.lines.map(&:bytesize).max).to be <= 998 # RFC 5322 2.1.1
  end

  it "makes no message of a letter with a gap" do
    letter = compose(letter: make_letter(body: "Dear {{first name}}, {{city}}"), facts: {})

    expect(letter).to have_attributes(raw: nil, gaps: ["person.first_name", "person.city"])
  end
end

RSpec.describe "a Maildir" do
  let(:maildir) { Post::Maildir.new(configuration.maildir) }

  before { FileUtils.rm_rf(configuration.maildir) }

  it "hands mail over whole and once" do
    name = maildir.deliver("From: a@b.example\r\n\r\nx")
    expect(maildir.waiting).to eq([name])
    expect(File.read(maildir.file(name))).to end_with("x")

    2.times { maildir.take_in(name) }
    expect(maildir.waiting).to be_empty
    expect(Dir.children(File.join(maildir.path, "cur"))).to eq(["#{name}:2,S"])
  end
end
