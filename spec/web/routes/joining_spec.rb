# frozen_string_literal: true

# The rules by which people join, over the API, and whatever stands in them.
RSpec.describe "rules of joining over the API" do
  let!(:maren) { sign_in }
  let(:draft) { make_sequence(people: [make_person], letters: [make_letter]) }
  let(:tag) { Records::Tag.named("price list") }
  let(:list) { Records::List.create(name: "Open days", created_at: now, updated_at: now) }
  let(:settings) do
    {
      "filter" => {audience: {condition: {field: "person.city", is: "one_of", value: ["Hull"]}}},
      "tag" => {tag_id: tag.id},
      "list" => {list_id: list.id},
      "field" => {field: "person.standing", from: "lead", to: "client"},
      "yearly" => {field: "person.birthday", days: -10}
    }
  end

  def path = "/api/sequences/#{draft.id}/joining"

  def made(kind, **more) = call_api(:post, path, {kind: kind, settings: settings.fetch(kind, {}), **more}, status: 201)

  it "are made of every kind, and say in words what they do" do
    words = Core::Journey::Joining::KINDS.keys.to_h { |kind| [kind, made(kind)["words"]] }
    expect(words).to eq(
      "filter" => "whoever begins to fit: everyone who is in Hull",
      "tag" => "whoever gets the tag “price list”",
      "list" => "whoever is put on the list “Open days”",
      "field" => "whoever’s standing changes from “lead” to “client”",
      "file" => "whoever is new with a file",
      "yearly" => "every year 10 days before birthday",
      "mail" => "whoever writes to us first",
      "form" => "whoever sends a form",
      "handed_over" => "whoever another sequence hands over"
    )
    expect(call_api(:get, path)["rules"].map { |rule| rule["kind"] }).to eq(words.keys)
    expect(call_api(:get, path)["rules"].map { |rule| rule["again_words"] }.uniq).to eq(["once only", "each year anew"])
  end

  def outlook(kind, **more) = call_api(:post, "#{path}/outlook", {kind: kind, settings: settings.fetch(kind, {}).merge(more)})

  def change(person, values, at: now) = Work::ChangePerson.call(person, values, version: person.version, moment: moment(at))

  def ahead(kind, **part)
    asked = {kind: kind, settings: settings.fetch(kind, {}), **part}
    call_api(:post, "#{path}/outlook/people", asked)["people"].map { |one| one["id"] }
  end

  it "say beforehand whom they would take in: who fits now, to whom it happened lately, whose day comes" do
    hull, tagged, listed, changed, old, born = Array.new(6) { make_person }
    hull.update(city: "Hull")
    change(tagged, {"person.tags" => ["price list"]})
    put_on_list = Work::Act.new({"kind" => "list", "list_id" => list.id}, moment)
    Work::ChangeMany.start(put_on_list, Records::Person.where(id: listed.id), moment: moment)
    change(changed, {"person.standing" => "client"})
    change(old, {"person.tags" => ["price list"]}, at: now - 40 * 86_400)
    born.update(birthday: Date.new(1980, 5, 30))
    told = {"filter" => hull, "tag" => tagged, "list" => listed, "field" => changed, "yearly" => born}
    told.each do |kind, person|
      expect(outlook(kind)).to include("people" => 1), kind
      expect(ahead(kind)).to eq([person.id]), kind
    end
    expect(outlook("tag")).to include("about" => "last_days", "days" => 30, "would_get_it" => 1)
    expect(ahead("tag", would_get_it: true)).to eq([tagged.id])
    tagged.update(consent: "no")
    expect(outlook("tag")).to include("people" => 1, "would_get_it" => 0)
    expect([ahead("tag"), ahead("tag", would_get_it: true)]).to eq([[tagged.id], []])
    change(tagged.refresh, {"person.tags" => []})
    expect(outlook("tag")).to include("people" => 0)
    expect(outlook("form")).to eq("about" => nil)
    expect(outlook("filter")).to include("about" => "now")
  end

  it "take a tag by its name, and make it only when they are made" do
    expect(outlook("tag", tag: "brand new")).to include("people" => 0)
    rule = call_api(:post, path, {kind: "tag", settings: {tag: "brand new"}}, status: 201)
    expect(rule["words"]).to eq("whoever gets the tag “brand new”")
    expect(Records::Tag.where(name: "brand new").count).to eq(1)
  end

  it "are switched on and off, changed, and taken away; their numbers open their people" do
    rule = made("tag", live: true, again: "every", gap_days: 3)
    expect(rule).to include("listens" => false, "again_words" => "every time, at least 3 days after the last", "joined" => 0)
    start(draft)
    person, waiting = make_person, make_person(last_name: "Waiting")
    [person, waiting].each { |one| Records.db[:people_tags].insert(person_id: one.id, tag_id: tag.id) }
    Work::JoinByRules.round(moment)
    Records.db[:join_waits].insert(rule_id: rule["id"], person_id: waiting.id, reason: "gap", since: now)
    rule = call_api(:get, path)["rules"].first
    expect(rule).to include("listens" => true, "joined" => 2, "waiting" => 1)
    people = call_api(:get, "/api/join-rules/#{rule["id"]}/people?part=waiting")
    expect([people["total"], people["people"].first["name"]]).to eq([1, "Ana Waiting"])
    rule = call_api(:patch, "/api/join-rules/#{rule["id"]}", {version: rule["version"], live: false})
    expect(rule).to include("listens" => false, "waiting" => 0)
    call_api(:patch, "/api/join-rules/#{rule["id"]}", {version: 1, live: true}, status: 409)
    call_api(:delete, "/api/join-rules/#{rule["id"]}")
    expect(call_api(:get, path)["rules"]).to eq([])
    expect(draft.members_dataset.where(state: "active").count).to eq(3)
  end

  describe "that take in at once whom they are true of" do
    let!(:hull) { Array.new(3) { make_person(city: "Hull") } }
    let(:sequence) { make_sequence(people: [], letters: [make_letter]).tap { |one| one.update(audience: {}) } }

    def ready = call_api(:get, "/api/sequences/#{sequence.id}/ready")

    def start(status: 200, **more) = call_api(:post, "/api/sequences/#{sequence.id}/start",
      {version: sequence.refresh.version, letters: 0, **more}, status: status)

    before do
      Records::Firm.save(postal_address: "4 Felt Yard")
      hull.first.update(consent: "no")
      rule = {kind: "filter", settings: settings["filter"], now_too: true, live: true}
      call_api(:post, "/api/sequences/#{sequence.id}/joining", rule, status: 201)
      wearing = {kind: "tag", settings: {tag_id: tag.id}, live: true}
      change(hull[1], {"person.tags" => ["price list"]})
      2.times { |n| call_api(:post, "/api/sequences/#{sequence.id}/joining", {**wearing, now_too: n.zero?}, status: 201) }
    end

    it "say so before the start, with who it is, each once, and do as they say" do
      expect(ready).to include("ready" => true, "letters" => 0, "joining" => 2)
      behind = call_api(:get, "/api/sequences/#{sequence.id}/ready/people?joining=true")["people"].map { |one| one["id"] }
      expect(behind).to match_array(hull.drop(1).map(&:id))
      change(hull.last, {"person.city" => "Leeds"})
      moved = start(status: 409, joining: 2)["error"]
      expect(moved).to include("code" => "numbers_moved", "data" => {"letters" => 0, "gaps" => 0, "joining" => 1})
      start(joining: 1)
      2.times { Work::JoinByRules.round(moment) }
      expect(sequence.members_dataset.select_map(:person_id)).to eq([hull[1].id])
    end

    it "stand in the way of a start when their filter is gone, and say so" do
      Records::JoinRule.first(kind: "filter").update(settings: {"audience" => {"filters" => [99_999]}})
      told = ready
      expect(told).to include("ready" => false, "joining" => 1)
      expect(told["remarks"].map { |remark| remark["code"] }).to eq(["rule_gone"])
      expect(start(status: 422)["error"]["code"]).to eq("not_ready")
    end

    it "ask for the password again when they are very many, now or at a time" do
      stub_const("NimbleLetter::Work::Moment::MANY", 1)
      later = Time.now + Web::SignIn::FRESH_SECONDS + 1
      allow(Time).to receive(:now).and_return(later)
      expect(start(status: 403)["error"]).to include("code" => "password_again")
      expect(start(status: 403, at: (now + 86_400).iso8601)["error"]).to include("code" => "password_again")
      change(hull.last, {"person.city" => "Leeds"})
      start
      expect(sequence.refresh.state).to eq("running")
    end
  end

  it "speak of what is gone without failing" do
    made("tag", live: true)
    made("list")
    tag.delete
    list.delete
    start(draft)
    Work::JoinByRules.round(moment)
    expect(call_api(:get, path)["rules"].map { |rule| rule["words"] }).to eq(
      ["whoever gets a tag that is gone", "whoever is put on a list that is gone"]
    )
  end

  odd = [nil, true, -1, 2**70, 1.5, "x", "\u0000", [], [nil], {}, {"x" => 1}, {"field" => "person.city"}, "9999-99-99", "a" * 400].freeze

  it "are refused in words, whatever stands in them" do
    answers = settings.keys.flat_map do |kind|
      {again: odd, gap_days: odd, live: odd, now_too: odd, settings: odd}.flat_map { |name, some|
        some.map { |one| {:kind => kind, :settings => settings[kind], name => one} }
      } + settings[kind].keys.product(odd).map { |name, one| {kind: kind, settings: settings[kind].merge(name => one)} }
    end
    wrong = answers.reject do |input|
      Records::JoinRule.where(sequence_id: draft.id).delete
      post path, JSON.generate(input)
      [201, 400, 404, 409, 422].include?(last_response.status)
    end
    expect(wrong).to eq([])
  end
end
