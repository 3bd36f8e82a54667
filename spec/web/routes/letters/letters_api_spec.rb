# frozen_string_literal: true

require "stringio"
require "vips"

RSpec.describe "the API of letters" do
  let!(:maren) { sign_in }
  let(:person) { make_person(owner_id: maren.id, company_id: make_company.id) }
  let(:letter) { make_letter }
  let(:png) { (Vips::Image.black(20, 10, bands: 3) + 90).cast(:uchar).copy(interpretation: :srgb).pngsave_buffer }

  def send_file(path, bytes, status: 201)
    header "Content-Type", "application/octet-stream"
    post path, bytes
    header "Content-Type", "application/json"
    expect(last_response.status).to eq(status), last_response.body[0, 300]
    assert_response_schema_confirm(status) if status < 400
    answer
  end

  def code = answer["error"]["code"]

  it "is a library: words, favourites, archive, copies, starters" do
    made = call_api(:post, "/api/letters", {starter: "06-yearly-check"}, status: 201)
    expect(made).to include("name" => "A year later", "category" => "Yearly letter", "manner" => "plain", "archived" => false)
    letter
    expect(call_api(:get, "/api/letters?words=settle%20in%20a")["letters"].map { |row| row["id"] }).to eq([made["id"]])
    call_api(:put, "/api/letters/#{made["id"]}/favourite", {favourite: true})
    expect(call_api(:get, "/api/letters")["letters"].to_h { |row| [row["id"], row["favourite"]] }).to eq(
      made["id"] => true,
      letter.id => false
    )
    call_api(:patch, "/api/letters/#{made["id"]}", {version: made["version"], archived: true})
    expect(
      [call_api(:get, "/api/letters"), call_api(:get, "/api/letters?archived=true")].map { |all| all["letters"].map { |row| row["id"] } }
    ).to eq([[letter.id], [made["id"]]])
    expect(call_api(:post, "/api/letters/#{letter.id}/copy", {}, status: 201)["name"]).to eq("A word, copy")
    expect(call_api(:get, "/api/letters/starters")["starters"].size).to eq(8)
    call_api(:post, "/api/letters", {starter: "none"}, status: 404)
  end

  it "keeps versions, tells two writers of one another, and keeps the text that lost" do
    body = doc(para("mine"))
    call_api(:patch, "/api/letters/#{letter.id}", {version: 1, body: body})
    call_api(:patch, "/api/letters/#{letter.id}", {version: 1, body: body}, status: 409)
    number = call_api(:post, "/api/letters/#{letter.id}/versions", {body: doc(para("lost"))})["number"]
    expect(call_api(:get, "/api/letters/#{letter.id}/versions")["versions"].map { |one| one["kind"] }).to eq(%w[set_aside typed typed])
    expect(call_api(:get, "/api/letters/#{letter.id}/versions/#{number}")["parts"].last["pieces"]).to eq(
      [{"kind" => "gone", "text" => "lost"}, {"kind" => "new", "text" => "mine"}]
    )
    expect(call_api(:get, "/api/letters/#{letter.id}/versions/1?with=#{number}")["parts"].size).to eq(1)
    expect(call_api(:post, "/api/letters/#{letter.id}/versions/#{number}/restore", {version: 2})["body"]).to eq(
      body.merge("content" => [para("lost")])
    )
    call_api(:get, "/api/letters/#{letter.id}/versions/99", status: 404)
  end

  describe "numbers" do
    let(:people) { [make_person(city: nil), make_person(city: "York"), make_person(city: "Hull")] }
    let(:letter) { make_letter(body: "In {{city}}.") }
    let!(:sequence) { make_sequence(people: people, letters: [letter]) }

    def behind(asked, **rest) = call_api(:post, "/api/letters/#{letter.id}/audience/people", asked, **rest)

    def names(page) = page["people"].map { |row| row["id"] }

    it "of readers each open as many people as they say" do
      york = {"field" => "person.city", "is" => "one_of", "value" => ["York"]}
      told = call_api(:post, "/api/letters/#{letter.id}/audience", {fields: ["person.city"], conditions: [york]})

      expect(told).to include("total" => 3, "without" => {"person.city" => 1})
      expect(names(behind({without: "person.city"}))).to eq([people[0].id])
      expect(behind({seeing: york})["total"]).to eq(told["seeing"].first["people"])
      expect(behind({seeing: york, others: true})["total"]).to eq(told["total"] - told["seeing"].first["people"])
    end

    it "of a check open those it is about" do
      gap = call_api(:get, "/api/letters/#{letter.id}/checks")["advice"].find { |advice| advice["code"] == "gap" }

      expect([gap["count"], names(behind({gap: gap["field"]}))]).to eq([1, [people[0].id]])
    end

    it "say when nobody can be known yet, and need to be asked for" do
      behind({seeing: {"field" => "lookup.rain", "is" => "yes"}}, status: 422)
      expect(code).to eq("not_known_yet")
      behind({}, status: 400)
    end

    it "of the library open who had it, opened it or replied" do
      letter = make_letter(name: "For all of them")
      had = start(make_sequence(people: people, letters: [letter])).deliveries
      had.first(2).each { |delivery| delivery.update(state: "sent") }
      [had[1], had[1], had[2]].each { |one| Work::Happening.call("opened", at: now, person_id: one.person_id, delivery: one) }
      row = call_api(:get, "/api/letters/figures")["letters"].find { |one| one["letter_id"] == letter.id }

      expect(row.values_at("sent", "opened", "replied")).to eq([2, 1, 0])
      expect(
        %w[sent opened replied].map { |figure| call_api(:get, "/api/letters/#{letter.id}/figures/people?figure=#{figure}")["total"] }
      ).to eq([2, 1, 0])
      call_api(:get, "/api/letters/#{letter.id}/figures/people?figure=liked", status: 400)
    end
  end

  it "says who else has a letter open" do
    expect(call_api(:post, "/api/letters/#{letter.id}/presence", {tab: "one"})["others"]).to eq([])
    expect(call_api(:post, "/api/letters/#{letter.id}/presence", {tab: "two"})["others"]).to eq([{"name" => maren.name, "own" => true}])
    Records.db[:letter_presences].where(tab: "one").update(account_id: make_account(name: "Petra Lund").id)
    expect(call_api(:post, "/api/letters/#{letter.id}/presence", {tab: "two"})["others"]).to eq([{"name" => "Petra Lund", "own" => false}])
    # Nobody can send somebody else away.
    expect(call_api(:post, "/api/letters/#{letter.id}/presence", {tab: "one", leaves: true})["others"]).to eq([])
    expect(call_api(:post, "/api/letters/#{letter.id}/presence", {tab: "two", leaves: true})["others"]).to eq([])
    expect(Records.db[:letter_presences].select_map(:tab)).to eq(["one"])
    expect(call_api(:post, "/api/letters/#{letter.id}/presence", {tab: "two"})["others"]).to eq([{"name" => "Petra Lund", "own" => false}])
    Records.db[:letter_presences].update(seen_at: Time.utc(2020, 1, 1))
    expect(call_api(:post, "/api/letters/#{letter.id}/presence", {tab: "two"})["others"]).to eq([])
  end

  it "reads what is pasted, and refuses too much of it" do
    expect(
      call_api(:post, "/api/letters/read", {html: "<p>Dear [first name] <script>x</script></p>"})["document"]["content"][0][
        "content"
      ].map { |node| node["type"] }
    ).to eq(%w[text mergeField])
    call_api(:post, "/api/letters/read", {html: "<p>#{"word " * 1_000_000}</p>"}, status: 422)
    expect(code).to eq("letter_too_long")
  end

  it "shows a letter as any person gets it: lines, gaps, text, and HTML that runs nothing" do
    gap = make_person(city: nil, owner_id: maren.id)
    make_mailbox(account_id: maren.id)
    letter.update(body: document("Dear {{first name}}, {{city}}"))
    preview = call_api(:get, "/api/letters/#{letter.id}/preview?person_id=#{gap.id}")
    get "/api/letters/#{letter.id}/shown?person_id=#{gap.id}"

    expect(preview).to include("gaps" => [{"field" => "person.city", "label" => "City"}], "text" => a_string_starting_with("Dear Ana,"))
    expect(last_response.content_type).to start_with("text/html")
    expect(last_response.headers["content-security-policy"]).to include("default-src 'none'", "frame-ancestors 'self'", "sandbox")
    expect(last_response.body).to include('data-gap="person.city"')
    expect(call_api(:get, "/api/letters/#{letter.id}/reader?want=gap")["person_id"]).to eq(gap.id)
    expect(
      call_api(
        :post,
        "/api/letters/#{letter.id}/audience",
        {fields: ["person.city"], conditions: [{field: "person.city", is: "empty"}]}
      )
    ).to include("without" => {"person.city" => 1}, "seeing" => [{"words" => a_string_including("city"), "people" => 1}])
  end

  it "takes pictures in and shows them to anybody with their address, and to nobody else's script" do
    picture = send_file("/api/pictures?name=Room.png", png)
    expect(picture).to include("name" => "Room", "width" => 20, "used_in" => [])
    get picture["url"]
    expect([last_response.status, last_response.content_type, last_response.headers["cache-control"]]).to match(
      [200, "image/jpeg", /immutable/]
    )
    get "/p/#{"x" * 22}.png"
    expect(last_response.status).to eq(404)
    send_file("/api/pictures?name=x.png", "no picture", status: 422)
    expect(code).to eq("not_a_picture")
    letter.update(body: doc({"type" => "picture", "attrs" => {"picture_id" => picture["id"], "alt" => [], "href" => [], "width" => 100}}))
    call_api(:delete, "/api/pictures/#{picture["id"]}", status: 422)
    letter.update(body: document("x"))
    call_api(:delete, "/api/pictures/#{picture["id"]}")
  end

  it "attaches files and takes them off" do
    file = send_file("/api/letters/#{letter.id}/attachments?name=page.pdf", "%PDF")["attachments"].first
    send_file("/api/letters/#{letter.id}/attachments?name=run.exe", "MZ", status: 422)
    expect(call_api(:get, "/api/letters/#{letter.id}")["attachments"]).to eq([file])
    expect(call_api(:delete, "/api/letters/#{letter.id}/attachments/#{file["id"]}")["attachments"]).to eq([])
  end

  it "goes out and comes in as a file" do
    %w[json md html eml].each do |format|
      get "/api/letters/#{letter.id}/file?format=#{format}"
      expect(last_response.headers["content-disposition"]).to include("A word.#{format}")
      expect(send_file("/api/letters/file?name=a.#{format}", last_response.body)["body"]["content"].size).to be >= 2
    end
    get "/api/letters/#{letter.id}/file?format=doc"
    expect(last_response.status).to eq(400)
  end

  it "keeps passages with where they are used" do
    passage = call_api(:post, "/api/passages", {name: "Hour", documents: {"" => doc(para("One hour"))}}, status: 201)
    changed =
      call_api(
        :patch,
        "/api/passages/#{passage["id"]}",
        {version: 1, documents: {"" => doc(para("Two hours")), "de" => doc(para("Zwei Stunden"))}}
      )
    expect(changed["documents"].keys).to eq(["", "de"])
    call_api(:patch, "/api/passages/#{passage["id"]}", {version: 1, name: "Late"}, status: 409)
    expect(call_api(:get, "/api/passages")["passages"].map { |one| one["words"] }).to eq(["Two hours"])
    call_api(:get, "/api/passages/#{passage["id"]}")
    path = "/api/passages/#{passage["id"]}/versions"
    expect(call_api(:get, path)).to include("at" => 1, "back" => nil, "versions" => [hash_including("kind" => "typed")])
    expect(call_api(:post, path, {documents: {"" => doc(para("lost"))}})).to eq("number" => 2)
    expect(call_api(:get, "#{path}/2")["parts"].map { |part| part["part"] }).to eq(["", "de"])
    expect(call_api(:post, "#{path}/1/restore", {version: 2})["words"]).to eq("Two hours")
    call_api(:delete, "/api/passages/#{passage["id"]}")
  end

  it "makes a letter of any piece of mail, however broken" do
    mails = Dir[File.join(ROOT, "spec/fixtures/mail/*.eml")].to_h { |path| [File.basename(path), File.binread(path)] }
    mails["nested.eml"] = (0..3000).map { |n| "Content-Type: multipart/mixed; boundary=b#{n}\r\n\r\n--b#{n}\r\n" }.join
    mails.each do |name, bytes|
      header "Content-Type", "application/octet-stream"
      post "/api/letters/file?name=#{name}", bytes
      expect(last_response.status).to eq(201).or(eq(422)), "#{name}: #{last_response.body[0, 200]}"
    end
  end

  it "refuses a page that is nested without end, a heading of it too" do
    header "Content-Type", "application/octet-stream"
    post "/api/letters/file?name=deep.html", "<svg>" * 5000
    expect([last_response.status, answer["error"]["code"]]).to eq([422, "html_unclear"])
  end

  it "sets the firm's look and signatures, the admin's for all, one's own for everybody" do
    look = call_api(:put, "/api/look", {values: {accent: "#ffff00"}, postal_address: "4 Felt Yard"})
    expect(look["contrasts"].map { |pair| pair["enough"] }).to eq([true, false, false])
    expect(look["postal_address"]).to eq("4 Felt Yard")
    [{ink: "url(x)"}, {ink: nil}, {ink: 7}, {font: "comic"}, {logo_picture_id: "1"}, {logo_picture_id: 999}, {shadow: "#000000"}]
      .each { |values| call_api(:put, "/api/look", {values: values}, status: 422) }
    box = make_mailbox
    signed =
      call_api(:put, "/api/signatures/account/#{maren.id}", {document: doc(para("Maren"))})["signatures"].find do |one|
        one["id"] == maren.id && one["kind"] == "account"
      end
    expect(signed["document"]).to eq(doc(para("Maren")))
    call_api(:put, "/api/signatures/mailbox/#{box.id}", {document: nil})

    elsewhere
    colleague = sign_in(colleague(role: "colleague"))
    call_api(:put, "/api/look", {values: {}}, status: 403)
    call_api(:put, "/api/signatures/account/#{maren.id}", {document: nil}, status: 403)
    call_api(:put, "/api/signatures/account/#{colleague.id}", {document: doc(para("Me"))})
  end

  it "sends tests, and reads what reached the practice post office" do
    make_mailbox(account_id: maren.id, address: "maren@ternandfallow.example")
    tests = call_api(:post, "/api/letters/#{letter.id}/tests", {person_id: person.id, to: [maren.id]}, status: 202)["tests"]
    expect(tests.first).to include("state" => "waiting", "address" => maren.email)
    raw =
      "From: a@b.example\r\nTo: c@d.example\r\nSubject: Hello\r\nX-Nimble-Test: yes\r\nMIME-Version: 1.0\r\nContent-Type: text/html; " \
      "charset=UTF-8\r\n\r\n<html><head></head><body><img src=\"#{configuration.public_url}/p/k.png\">Hi " \
      "<a href=\"http://127.0.0.1:1/c/t\">there</a> http://127.0.0.1:1/c/t<img src=\"http://127.0.0.1:1/o/t\"></body></html>"
    id = Records.db[:practice_letters].insert(recipient: "c@d.example", message_id: "m", received_at: now, raw: raw)
    Records::TestLetter.dataset.update(state: "sent", message_id: "m")
    expect(call_api(:get, "/api/letters/#{letter.id}/tests")["tests"].first).to include("practice_letter_id" => id)
    expect(call_api(:get, "/api/practice/letters?words=c@d")["letters"]).to eq(
      [
        {
          "id" => id,
          "to" => "c@d.example",
          "from" => "a@b.example",
          "subject" => "Hello",
          "test" => true,
          "received_at" => "2026-05-12T08:00:00.000Z"
        }
      ]
    )
    expect(call_api(:get, "/api/practice/letters/#{id}")["source"]).to eq(raw)
    get "/api/practice/letters/#{id}/shown"
    expect(last_response.body).to include('<body><img src="/p/k.png">Hi <a href="/c/t">there</a> http://127.0.0.1:1/c/t</body>')
    expect(last_response.headers["content-security-policy"]).to include("img-src http://127.0.0.1/p/")
    get "/u/test"
    expect(last_response.body).to include("This was a test")
  end

  it "says whom a change would reach while a letter is under way" do
    Records::Firm.save(postal_address: "4 Felt Yard")
    sequence = start(make_sequence(people: [person, make_person], letters: [letter]))
    Records::Delivery.where(person_id: person.id).update(state: "sent", sent_at: now)

    expect(call_api(:get, "/api/letters/#{letter.id}")["running_in"]).to eq(
      [{"id" => sequence.id, "name" => sequence.name, "had" => 1, "will" => 1, "held" => false}]
    )
  end

  it "fills a gap for one letter, and plans two versions of a step" do
    sequence = make_sequence(people: [person], letters: [letter])
    step = sequence.steps.first
    expect(call_api(:put, "/api/steps/#{step.id}/stack/#{person.id}/fills", {field: "person.city", value: "Hull"})["filled"]).to eq(
      "person.city" => "Hull"
    )
    call_api(:put, "/api/steps/#{step.id}/stack/#{person.id}", {line: "Hi", after: "How is [city]?"})
    plan = {
      letter_id: letter.id,
      amount: 0,
      unit: "days",
      from_minute: 540,
      to_minute: 690,
      zone: "theirs",
      id: step.id,
      other: {
        what: "subject",
        subject: doc(para("Another"))
      }
    }
    saved = call_api(:patch, "/api/sequences/#{sequence.id}", {version: sequence.version, steps: [plan]})
    expect(saved["steps"][0]["other"]).to include("what" => "subject", "at_least" => 30, "after_hours" => 48)
    expect(call_api(:get, "/api/steps/#{step.id}/stack")["rows"][0]["version"]).to eq("a")
  end
end
