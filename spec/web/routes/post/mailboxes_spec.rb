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

  it "take ten tries of a code, and none of one that is an hour old" do
    box = made
    code = code_of(box)
    wrong = (code == "000000") ? "000001" : "000000"
    10.times { call_api(:post, at(box, "/prove"), {code: wrong}, status: 422) }
    expect(call_api(:post, at(box, "/prove"), {code: code}, status: 422)["error"]["code"]).to eq("no_code")
    code = code_of(box)
    Records::Mailbox.where(id: box["id"]).update(code_sent_at: Records.server_time - 3601)
    call_api(:post, at(box, "/prove"), {code: code}, status: 422)
    expect(Records::Mailbox[box["id"]].proved_at).to be_nil
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
