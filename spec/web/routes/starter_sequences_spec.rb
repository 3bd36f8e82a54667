# frozen_string_literal: true

# The sequences that ship: each comes into an empty firm without a question that must be answered, and could start there.
RSpec.describe "starter sequences" do
  let!(:maren) { sign_in }
  let(:starters) { call_api(:get, "/api/sequences/starters")["starters"] }

  def taken(key, answers = nil, status: answers ? 201 : 200) =
    call_api(:post, "/api/sequences/file", {starter: key, answers: answers}.compact, status: status)

  it "are eight, each with its name, what it is for, and what happens in it" do
    expect(starters.map { |one| one["name"] }).to eq(["Welcome", "After a meeting", "A proposal is out", "A letter every year",
      "An invitation", "Keeping in touch", "A new client's first month", "Gone quiet"])
    expect(starters.map { |one| one["about"].size }).to all(be > 40)
    expect(starters.to_h { |one| [one["name"], one["steps"].size] }).to include("Welcome" => 4, "Keeping in touch" => 12)
  end

  it "become drafts that say nothing is missing but who and from whom" do
    Records::Firm.save(postal_address: "4 Felt Yard")
    make_person(consent: "yes")
    box = make_mailbox
    starters.each do |starter|
      expect(taken(starter["key"])["wanted"]).to eq([]), starter["name"]
      made = taken(starter["key"], {sender: {kind: "mailbox", mailbox_id: box.id}})
      whom = {condition: {field: "person.consent", is: "one_of", value: ["yes"]}}
      call_api(:patch, "/api/sequences/#{made["id"]}", {version: made["version"], audience: whom})
      blocking = call_api(:get, "/api/sequences/#{made["id"]}/ready")["remarks"].select { |remark| remark["blocking"] }
      expect(blocking).to eq([]), "#{starter["name"]}: #{blocking}"
    end
    expect(Records::JoinRule.select_order_map(:kind)).to eq(%w[field tag tag yearly])
  end

  it "speak of no trade, and name nobody" do
    words = Dir[File.join(ROOT, "starters", "**", "*.{md,yml}")].map { |path| File.read(path) }.join
    expect(words).not_to match(/acoustic|felt\b|room fitted|dining|Tern|Fallow|meter\b/i)
  end

  it "are none under another name" do
    taken("99-none", {}, status: 404)
  end
end
