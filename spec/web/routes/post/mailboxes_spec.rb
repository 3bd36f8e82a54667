# frozen_string_literal: true

# Mailboxes are made, proved, changed and retired over the API.
RSpec.describe "mailboxes over the API" do
  let!(:maren) { sign_in }
  let(:input) { {address: "desk@ternandfallow.example", name: "The desk", daily_limit: 40, pace_from: 120, pace_to: 240, hours_from: 480} }
  let(:wire) { ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")) }

  def made(**more) = call_api(:post, "/api/mailboxes", {**input, **more}, status: 201)

  def at(box, path = "") = "/api/mailboxes/#{box["id"]}#{path}"

  # @return [String] the code as it stands in the mail that was sent
  def code_of(box)
    call_api(:post, at(box, "/code"))
    worker(transport: wire).send_tests(now)
    wire.delivered.last[:raw][/is (\d{6})\./, 1]
  end

  it "are proved by the code that was sent there, once, and kept as a hash" do
    box = made
    expect(box).to include("proved" => false, "pace_to" => 240, "hours_from" => 480, "hours_to" => 1440, "version" => 1)
    code = code_of(box)
    expect(wire.delivered.last[:to]).to eq("desk@ternandfallow.example")
    expect(Records::Notice.count).to eq(0)
    expect(Records::Mailbox[box["id"]].code_digest).not_to include(code)
    expect(call_api(:post, at(box, "/prove"), {code: " #{code}"})["proved"]).to be(true)
    call_api(:post, at(box, "/prove"), {code: code}, status: 422)
    moved = call_api(:patch, at(box), {version: 1, address: "room@ternandfallow.example"})
    expect(moved).to include("proved" => false, "version" => 2)
  end

  def let_pass(seconds) = Records.db[:allowances].update(full_at: Sequel.date_sub(:full_at, seconds: seconds))

  it "take no code that is an hour old" do
    box = made
    code = code_of(box)
    Records::Mailbox.where(id: box["id"]).update(code_sent_at: Records.server_time - 3601)
    expect(call_api(:post, at(box, "/prove"), {code: code}, status: 422)["error"]["code"]).to eq("no_code")
    expect(Records::Mailbox[box["id"]].proved_at).to be_nil
  end

  it "take ten tries, however many codes are sent, then one every six minutes; wrong ones are in the safety log" do
    box = made
    try = ->(code, status = 422) { call_api(:post, at(box, "/prove"), {code: code}, status: status).dig("error", "code") }
    codes = Array.new(2) { code_of(box) }
    wrong = ([*"000000".."000009"] - codes).first
    expect(Array.new(5) { try.call(wrong) }.uniq).to eq(["wrong_code"])
    code = code_of(box)
    expect(Array.new(5) { try.call((wrong == code) ? "999999" : wrong) }.uniq).to eq(["wrong_code"])
    expect(try.call(code)).to eq("too_often")
    let_pass(361)
    expect(call_api(:post, at(box, "/prove"), {code: code})["proved"]).to be(true)
    expect([log_lines("code_refused").size, log_lines("code_sent").map { |line| line[:about] }.uniq]).to eq([10, [box["address"]]])
  end

  it "have at most five codes sent in an hour" do
    box, sent = made, 0
    360.times do
      post at(box, "/code")
      sent += 1 if last_response.ok?
      let_pass(10)
    end
    expect(sent).to be_between(4, 5)
    expect(answer["error"]).to include("code" => "too_often", "message" => "Five codes an hour are sent to one mailbox.")
  end

  it "show their codes in the practice post to those who may prove them, and to nobody else" do
    idris, petra = %w[Idris Petra].map { |name| colleague(name: name, role: "colleague") }
    box = make_mailbox(account_id: idris.id, proved_at: nil)
    id = Records.db[:practice_letters].insert(recipient: box.address, message_id: "notice-1.1@x.example", received_at: now,
      raw: "Subject: Your code\r\nMessage-ID: <notice-1.1@x.example>\r\n\r\nThe code is 123456.")
    ids = -> { call_api(:get, "/api/practice/letters")["letters"].map { |one| one["id"] } }
    expect(ids.call).to eq([id])
    {idris => 200, petra => 404}.each do |who, status|
      elsewhere
      sign_in(who)
      expect(ids.call.size).to eq((status == 200) ? 1 : 0)
      ["", "/shown"].each { |path| expect(get("/api/practice/letters/#{id}#{path}").status).to eq(status), "#{who.name} #{path}" }
    end
  end

  it "send answers elsewhere and a copy to the files, in which nothing is followed" do
    box = make_mailbox(reply_to: "answers@ternandfallow.example", filing_address: "files@ternandfallow.example")
    letter = make_letter(body: "See [this](https://rooms.example).")
    sequence = start(make_sequence(people: [make_person], letters: [letter], mailbox: box))
    worker(transport: wire).dispatch_due(Records::Delivery.where(sequence_id: sequence.id).get(:due_at))
    letter, copy = wire.delivered
    expect([letter[:to] == copy[:to], copy[:to]]).to eq([false, "files@ternandfallow.example"])
    expect(letter[:raw]).to include("Reply-To: answers@ternandfallow.example").and include("/o/").and include("List-Unsubscribe:")
    expect(copy[:raw]).not_to match(%r{/o/|/c/|/u/|List-Unsubscribe})
    expect(Records::Event.where(kind: "sent").count).to eq(1)
  end

  it "are retired with a word about where they are used; what waits in them is set aside" do
    box = make_mailbox
    sequence = start(make_sequence(people: [make_person], mailbox: box))
    refused = call_api(:post, "/api/mailboxes/#{box.id}/retire", {}, status: 422)
    expect(refused["error"]).to include("code" => "used", "message" => "#{box.address} is used in “Quieter rooms”.")
    expect(call_api(:post, "/api/mailboxes/#{box.id}/retire", {anyway: true})["retired"]).to be(true)
    due = Records::Delivery.where(sequence_id: sequence.id)
    worker(transport: wire).dispatch_due(due.get(:due_at))
    expect([wire.delivered, due.get(:state)]).to eq([[], "failed"])
    expect(Records::SetAside.first.reason).to include("retired")
    expect(Work::Sender.new({"kind" => "mailbox", "mailbox_id" => box.id}).for(make_person)).to be_nil
    expect(call_api(:post, "/api/mailboxes/#{box.id}/take-back")["retired"]).to be(false)
  end

  it "are an admin's to change, and a colleague's own to prove" do
    ivo = colleague(name: "Ivo Lund", role: "colleague")
    own, other = make_mailbox(account_id: ivo.id, proved_at: nil), make_mailbox(proved_at: nil)
    elsewhere
    sign_in(ivo)
    call_api(:post, "/api/mailboxes", input, status: 403)
    call_api(:patch, "/api/mailboxes/#{own.id}", {version: 1, daily_limit: 5}, status: 403)
    call_api(:post, "/api/mailboxes/#{other.id}/code", status: 403)
    expect(code_of({"id" => own.id})).to match(/\A\d{6}\z/)
  end

  odd = [nil, true, -1, 2**70, 1.5, "x", "", "\u0000", "a@b\r\nBcc: c@d.example", [], {}, "a" * 400].freeze

  it "are refused in words, whatever stands in them" do
    box = made
    names = %i[address name account_id reply_to filing_address daily_limit pace_from pace_to hours_from hours_to]
    answers = names.product(odd).map do |name, one|
      patch at(box), JSON.generate(:version => Records::Mailbox[box["id"]].version, name => one)
      [name, one, last_response.status]
    end
    expect(answers.reject { |_, _, status| [200, 400, 409, 422].include?(status) }).to eq([])
    expect(call_api(:patch, at(box), {version: 1, daily_limit: 5}, status: 409)["error"]["data"]["version"]).to be > 1
  end
end
