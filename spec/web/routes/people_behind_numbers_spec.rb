# frozen_string_literal: true

# No number without its people: every route that gives the people behind one gives all of them, page by page, each once.
RSpec.describe "the people behind numbers" do
  let(:people) { Array.new(130) { make_person(last_name: "Lark #{number}", city: "York") } }
  let(:sequence) { start(make_sequence(people: people, letters: [make_letter(body: "Hello {{known as|there}}")]), at: now - 7200) }
  let(:letter) { sequence.steps.first.letter }
  let(:york) { {field: "person.city", is: "one_of", value: ["York"]} }
  # By route of the contract: how it is asked, given a cursor.
  let(:asked) do
    {
      "POST /api/audience/people" => posting("/api/audience/people", audience: {condition: york}, part: "matching"),
      "POST /api/people/search" => ->(cursor) { [:post, "/api/people/search", {condition: york, limit: 60, offset: cursor.to_i}] },
      "GET /api/sequences/{id}/results/people" => getting("/api/sequences/#{sequence.id}/results/people?figure=sent"),
      "GET /api/letters/{id}/figures/people" => getting("/api/letters/#{letter.id}/figures/people?figure=sent"),
      "POST /api/letters/{id}/audience/people" => posting("/api/letters/#{letter.id}/audience/people", without: "person.known_as"),
      "GET /api/changes/{id}/kept" => getting("/api/changes/#{kept.id}/kept?"),
      "GET /api/changes/{id}/stays-out" => getting("/api/changes/#{back_from_bin.id}/stays-out?"),
      "GET /api/changes/{id}/joined" => getting("/api/changes/#{joined_by_tag.id}/joined?"),
      "GET /api/imports/{id}/people" => getting("/api/imports/#{imported.id}/people?"),
      "GET /api/blocked/{id}/people" => getting("/api/blocked/#{blocked.id}/people?"),
      "GET /api/join-rules/{id}/people" => getting("/api/join-rules/#{joined_by.id}/people?part=joined"),
      "GET /api/sequences/{id}/proposal/people" => getting("/api/sequences/#{proposed.id}/proposal/people?kind=untouched"),
      "POST /api/sequences/{id}/rehearsal/people" => posting("/api/sequences/#{draft.id}/rehearsal/people", assume: "nobody"),
      "POST /api/sequences/{id}/joining/outlook/people" => posting("/api/sequences/#{draft.id}/joining/outlook/people",
        kind: "filter", settings: {audience: {condition: york}}),
      "GET /api/post/people" => getting("/api/post/people?"),
      "GET /api/sequences/{id}/ready/people" => getting("/api/sequences/#{draft.id}/ready/people?mailbox_id=#{draft_mailbox}")
    }
  end
  # An act that was taken back after somebody had changed everybody.
  let(:kept) do
    at = moment(account: make_account)
    act = Work::Act.new({"kind" => "field", "field" => "person.region", "value" => "North"}, at)
    set = Work::ChangeMany.start(act, Records::Person.where(id: people.map(&:id)), moment: at)
    Records::Person.where(id: people.map(&:id)).update(region: "South")
    Work::TakeBack.start(set, moment: at)
  end

  # They were put in the bin and taken out again, while their sequence ran on with somebody else.
  let(:back_from_bin) do
    at = moment(account: make_account)
    ran_on = start(make_sequence(people: [*people, make_person(city: "Leeds", known_as: "Bo")]))
    set = Work::ChangeMany.start(Work::Act.new({"kind" => "bin"}, at), Records::Person.where(id: people.map(&:id)), moment: at)
    Records::Sequence.where(state: "ended").update(state: "stopped")
    Work::TakeBack.start(set, moment: at).tap { ran_on.update(state: "paused") }
  end
  # A tag by which everybody joined a sequence was a mistake.
  let(:joined_by_tag) do
    at = moment(account: make_account)
    going = start(make_sequence(people: [make_person(city: "Leeds", known_as: "Bo")]))
    tag = Records::Tag.named("mistaken")
    Work::KeepRule.make(going, {kind: "tag", settings: {tag_id: tag.id}, live: true}, moment: at)
    act = Work::Act.new({"kind" => "tag", "names" => [tag.name]}, at)
    joining = Array.new(130) { make_person(city: "Leeds", known_as: "Bo").id }
    set = Work::ChangeMany.start(act, Records::Person.where(id: joining), moment: at)
    Work::JoinByRules.round(at)
    Work::TakeBack.start(set, moment: at).tap { going.refresh.update(state: "paused") }
  end
  # A file of people; half of them were there already, and the same.
  let(:imported) do
    set = Records::ChangeSet.create(kind: "import", words: "Brought in a file", act: {}, state: "done", created_at: now)
    file = Records::Import.create(file_name: "file", file_key: "", digest: "", bytes: 1, format: "csv", state: "done", reading: {},
      change_set_id: set.id, created_at: now, updated_at: now)
    people.each_with_index do |one, n|
      row = {import_id: file.id, number: n + 1, verdict: n.even? ? "same" : "new", person_id: n.even? ? one.id : nil}
      Records.db[:import_rows].insert(**row, values: "{}")
      Records::ChangeEntry.insert(change_set_id: set.id, person_id: one.id, state: "done") if n.odd?
    end
    file
  end
  let(:proposed) do
    ran_on = start(make_sequence(people: Array.new(130) { make_person(city: "Leeds", known_as: "Bo") }))
    Work::ChangePlan.new(ran_on, moment).propose({leave_on: []}, version: 0).tap { |one| one.update(state: "paused") }
  end
  let(:joined_by) do
    rule = Work::KeepRule.make(sequence, {kind: "file", settings: {}}, moment: moment)
    sequence.members_dataset.update(rule_id: rule.id)
    rule
  end
  let(:blocked) do
    Records::Person.where(id: people.map(&:id)).each { |one| one.update(email: "p#{one.id}@lark.example") }
    Work::BlockAddress.put(kind: "domain", value: "lark.example", reason: "asked", moment: moment)
  end

  # Two sequences that are planned: one draft, and one whose letters are the next to go, two to each.
  let(:others) { Array.new(130) { make_person(city: "Hull", known_as: "Bo") } }
  let(:draft) { make_sequence(people: others, letters: [make_letter(body: "Hello")]) }
  let(:draft_mailbox) { call_api(:get, "/api/sequences/#{draft.id}/ready")["mailboxes"].first["id"] }

  def going_next
    going = start(make_sequence(people: others, letters: [make_letter(body: "One"), make_letter(body: "Two")]))
    going.deliveries_dataset.update(due_at: now + 3600)
  end

  def getting(path) = ->(cursor) { [:get, "#{path}&cursor=#{cursor}", nil] }

  def posting(path, **body) = ->(cursor) { [:post, path, {**body, cursor: cursor}] }

  before do
    sign_in
    Records::Firm.save(postal_address: "4 Felt Yard")
    sequence.deliveries_dataset.update(state: "sent", sent_at: now - 60)
    sequence.deliveries_dataset.select_map(%i[person_id id]).each do |person_id, id|
      Records::Event.insert(kind: "sent", person_id: person_id, occurred_at: now - 60, delivery_id: id, sequence_id: sequence.id,
        letter_id: letter.id, step_id: sequence.steps.first.id)
    end
    # Some were heard from, most never were.
    people.first(40).each_with_index do |person, n|
      Records::Person.where(id: person.id).update(last_activity_at: now - n / 3 * 60, last_activity_kind: "opened")
    end
  end

  it "count letters of the next batch, and everybody once" do
    going_next
    expect(call_api(:get, "/api/post")["next"]["letters"]).to eq(130)
    expect(call_api(:get, "/api/post/people")["total"]).to eq(130)
  end

  it "are those of one mailbox, and of none; a plan without people has none to tell of" do
    expect(call_api(:get, "/api/sequences/#{draft.id}/ready")["mailboxes"]).to match([hash_including("people" => 130)])
    expect(call_api(:get, "/api/sequences/#{draft.id}/ready/people")["total"]).to eq(0)
    nobody = make_sequence(people: [], letters: [])
    problem = call_api(:get, "/api/sequences/#{nobody.id}/ready/people", status: 422)
    expect(problem["error"]).to include("code" => "invalid", "at" => "sequence")
  end

  it "are those whose one letter leaves later, by what keeps it" do
    people.first.update(away_until: Date.new(2026, 5, 20))
    letter = call_api(:post, "/api/sequences", {audience: {people: people.first(2).map(&:id)}, letter: {}}, status: 201)
    keeps = call_api(:get, "/api/sequences/#{letter["id"]}/ready")["keeps"]
    expect(keeps).to match([hash_including("code" => "away", "count" => 1)])
    page = call_api(:get, "/api/sequences/#{letter["id"]}/ready/people?keeps=away")
    expect(page["people"].map { |person| person["id"] }).to eq([people.first.id])
  end

  it "are all of them, page by page, each once" do
    going_next
    asked.each do |route, question|
      found, cursor, total = [], nil, nil
      loop do
        page = call_api(*question.call(cursor))
        total ||= page["total"]
        found.concat(page["people"].map { |person| person["id"] })
        expect(page["people"].size).to be <= 100, route
        cursor = page["next_cursor"] or break
      end
      expect([found.size, found.uniq.size, total]).to eq([130, 130, 130]), "#{route}: #{found.size}, #{found.uniq.size} of #{total}"
    end
  end

  it "can be taken up again, by a condition that gives exactly them, or by their numbers" do
    going_next
    asked.each do |route, question|
      verb, path, body = question.call(nil)
      page = call_api(verb, path, path.end_with?("search") ? body.merge(same: true) : body)
      expect(page["chosen_count"]).to eq(130), "#{route}: #{page.except("people")}"
      again = call_api(:post, "/api/people/search", page["chosen"])
      expect(again["total"]).to eq(130), route
    end
  end

  it "are said as a condition only where that gives the very same people" do
    figure = ->(name, step = nil) do
      call_api(:get, "/api/sequences/#{sequence.id}/results/people?figure=#{name}#{"&step_id=#{step}" if step}")["chosen"]
    end
    step = sequence.steps.first.id
    expect(figure.call("sent", step)).to eq(
      "condition" => {"activity" => "had_letter", "sequence_id" => sequence.id, "letter_id" => letter.id}
    )
    expect(figure.call("planned")).to eq("condition" => {"membership" => "was_in", "sequence_id" => sequence.id})
    # Somebody had the letter twice over by the same sequence, at a step that is another.
    Records::Event.insert(kind: "sent", person_id: make_person.id, occurred_at: now, sequence_id: sequence.id, letter_id: letter.id,
      step_id: nil)
    expect(figure.call("sent", step)["ids"].size).to eq(130)
  end

  it "leave out the bin when they are taken up, and say how many are left" do
    Records::Person.where(id: people.first(30).map(&:id)).update(deleted_at: now)
    page = call_api(:get, "/api/sequences/#{sequence.id}/results/people?figure=sent")
    expect(page.slice("total", "chosen_count")).to eq("total" => 130, "chosen_count" => 100)
    expect(call_api(:post, "/api/people/search", page["chosen"])["total"]).to eq(100)
  end

  it "are told of the sieve by its own reasons, one after the other" do
    Records::Person.where(id: people.first(10).map(&:id)).update(do_not_mail: true)
    Records::Person.where(id: people.first(4).map(&:id)).update(email: nil, email_fold: nil)
    twin = make_person(email: people.last.email, city: "York")
    parts = {"no_address" => 4, "do_not_mail" => 6, "same_address" => 1, "would_get_it" => 120, "reachable" => 126}
    parts.each do |part, count|
      chosen = call_api(:post, "/api/audience/people", {audience: {condition: york}, part: part})["chosen"]
      expect(call_api(:post, "/api/people/search", chosen)["total"]).to eq(count), part
      expect(chosen.keys).to eq([%w[same_address would_get_it reachable].include?(part) ? "ids" : "condition"]), part
    end
    expect(twin.id).to be > people.last.id
  end

  it "are told of adding people: who is new, and who was in it before" do
    Records::Member.where(person_id: people.first(30).map(&:id)).each { |one| Work::Leaving.call(one, "taken_out", at: now) }
    people.first(30).first.update(email: nil, email_fold: nil)
    fresh = make_person(city: "York")
    meant = {audience: {condition: york}, sequence_id: sequence.id, same: true}
    numbers = call_api(:post, "/api/sequences/#{sequence.id}/join", meant.slice(:audience))
    was_in = {membership: "was_in", sequence_id: sequence.id}
    behind = ->(part, condition) { call_api(:post, "/api/people/search", {**meant, part: part, **condition}) }
    before = behind.call("would_get_it", {condition: was_in})
    expect([before["total"], before["chosen"]["ids"]&.size]).to eq([numbers["again"].sum { |one| one["people"] }, before["total"]])
    expect(behind.call("would_get_it", {condition: {not: was_in}})["people"].map { |one| one["id"] }).to eq([fresh.id])
    expect([numbers["fresh"], numbers["sieve"]["matching"]]).to eq([1, behind.call("matching", {})["total"]])
  end

  it "are asked of every route of the contract that gives a page of them" do
    contract = YAML.safe_load_file(Web::Contract::PATH)
    giving = contract["paths"].flat_map do |path, verbs|
      verbs.except("parameters").filter_map { |verb, route| "#{verb.upcase} #{path}" if route.to_s.include?("schemas/PeoplePage") }
    end

    expect(asked.keys).to match_array(giving)
  end
end
