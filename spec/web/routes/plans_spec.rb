# frozen_string_literal: true

# Plans of every kind of step over the API, as the contract has them, and what a firm says of members, tasks and days.
RSpec.describe "plans over the API" do
  let!(:maren) { sign_in }
  let(:person) { make_person(owner_id: maren.id) }
  let(:mailbox) { make_mailbox(account_id: maren.id) }
  let(:letter) { make_letter(name: "Hello") }
  let(:draft) { make_sequence(people: [person], letters: [], mailbox: mailbox) }
  let(:at_once) { {amount: 0, unit: "minutes", from_minute: 0, to_minute: 1440, days: "any"} }
  let(:steps) do
    [
      {kind: "letter", id: -1, letter_id: letter.id, **at_once},
      {kind: "fork", within: {amount: 5, unit: "working_days"}, lanes: [
        {words: "warm", test: {kind: "clicked", step_id: -1, link: "https://rooms.example"}, steps: [
          {kind: "task", words: "Ring them", of: "owner", due_in: 1, waits: true, outcomes: ["interested"], **at_once}
        ]},
        {test: {condition: {field: "person.standing", is: "one_of", value: ["client"]}}, comes_back: false, steps: []},
        {test: nil, steps: [{kind: "change", what: "tag", to: {names: ["quiet"]}, **at_once}]}
      ]},
      {kind: "letter", letter_id: letter.id, look_first: true, only_for: {field: "person.city", is: "empty"},
       not_after: {seconds: 86_400}, **at_once}
    ]
  end

  def sequence(path = "") = "/api/sequences/#{draft.id}#{path}"

  def lay_out(**more) = call_api(:patch, sequence, {version: draft.refresh.version, steps: steps, **more})

  it "keeps a tree, says it in words, and takes back what it gave" do
    planned = lay_out(leave_if: {field: "person.standing", is: "one_of", value: ["partner"]}, ends_at: "2026-12-01T00:00:00Z")
    expect(planned["steps"].map { |step| step.values_at("position", "headline") }).to eq(
      [[1, "Hello"], [2, "Waits up to 5 working days"], [5, "Hello"]]
    )
    lanes = planned["steps"][1]["lanes"]
    expect(lanes.first["steps"].first["counts"].slice("planned", "may")).to eq("planned" => 0, "may" => 1)
    expect(lanes.map { |lane| lane["headline"] }).to eq(["warm", "everyone who is a client", "otherwise"])
    expect(lanes.flat_map { |lane| lane["steps"].map { |step| step["headline"] } }).to eq(["Ring them (the owner)", "Tag them quiet"])
    expect(lanes.first["test"]["step_id"]).to eq(planned["steps"].first["id"])
    expect(planned).to include("leave_if_words" => "everyone who is a partner", "ends_at" => "2026-12-01T00:00:00.000Z")

    inputs = %w[id kind letter_id amount unit from_minute to_minute days within lanes look_first only_for not_after words of due_in waits
      outcomes what to]
    sent = ->(steps) do
      steps.map do |step|
        given = step.slice(*inputs)
        next given unless given["lanes"]

        lanes = given["lanes"].map { |lane| {**lane.slice("id", "words", "test", "comes_back"), "steps" => sent.call(lane["steps"])} }
        given.slice("id", "kind", "within").merge("lanes" => lanes)
      end
    end
    again = call_api(:patch, sequence, {version: planned["version"], steps: sent.call(planned["steps"])})
    expect(again["steps"]).to eq(planned["steps"])
  end

  it "runs it: who is where, whose task it is, and what came of it" do
    Records::Firm.save(postal_address: "4 Felt Yard, York")
    person.update(city: nil)
    lay_out
    ready = call_api(:get, sequence("/ready"))
    call_api(:post, sequence("/start"), {version: draft.refresh.version, letters: ready["letters"]})
    worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))).dispatch_due(now)
    sent = Records::Delivery.first(state: "sent")
    expect(call_api(:get, sequence)["steps"].map { |step| step["counts"].values_at("planned", "may", "sent", "here") }).to eq(
      [[1, 0, 1, 0], [1, 0, 0, 1], [0, 1, 0, 0]]
    )
    expect(call_api(:get, sequence("/members"))["members"].first).to include("waits_for" => "reaction", "step" => 2, "paused" => false)

    Work::Touch.call("clicked", sent, at: now + 60, by_machine: false, link: "https://rooms.example")
    worker.dispatch_due(now + 70)
    standing_clock.advance_to(now + 120)
    task = call_api(:get, "/api/tasks?mine=true")["tasks"].first
    expect(task).to include("words" => "Ring them", "person" => person.name, "account" => maren.name, "due_on" => "2026-05-13",
      "outcomes" => [{"key" => "interested", "words" => "interested"}])
    call_api(:patch, "/api/tasks/#{task["id"]}", {version: 1}, status: 422)
    other = make_account(name: "Ivo Lund")
    given = call_api(:patch, "/api/tasks/#{task["id"]}", {version: 1, account_id: other.id})
    expect(given).to include("account" => "Ivo Lund", "version" => 2, "nobodys" => false)
    mine = -> { call_api(:get, "/api/tasks?mine=true")["tasks"].map { |one| one.values_at("account", "nobodys") } }
    expect(mine.call).to eq([])
    other.update(status_id: Records::Account::CLOSED)
    expect(mine.call).to eq([["Ivo Lund", true]])
    Records::Task.where(id: task["id"]).update(account_id: nil)
    expect(mine.call).to eq([[nil, true]])
    call_api(:patch, "/api/tasks/#{task["id"]}", {version: 1, done: true}, status: 409)
    done = call_api(:patch, "/api/tasks/#{task["id"]}", {version: 2, done: true, outcome: "interested", note: "On Friday"})
    expect(done).to include("state" => "done", "outcome" => "interested")
    expect(call_api(:get, "/api/tasks?state=done&person_id=#{person.id}")["total"]).to eq(1)

    member = call_api(:get, sequence("/members"))["members"].first
    expect(member).to include("waits_for" => "nod", "step" => 5)
    expect(call_api(:post, "/api/members/#{member["id"]}/nod", {})).to include("waits_for" => "time")
    expect(call_api(:get, sequence)["steps"][1]["lanes"].map { |lane| lane["took"] }).to eq([1, 0, 0])
    history = call_api(:get, "/api/people/#{person.id}/history?about=sequences")["entries"].map { |one| one.values_at("words", "detail") }
    expect(history).to include(["Went on in “Quieter rooms”", "warm"], ["A step of “Quieter rooms” was done", "Ring them (the owner)"])
  end

  it "does to members what can be taken back" do
    person.update(city: nil)
    lay_out
    start(draft.refresh)
    act = ->(kind, **more) {
      call_api(:post, "/api/changes", {act: {kind: kind, sequence_id: draft.id, **more}, people: {ids: [person.id]}}, status: 201)
    }
    last = draft.steps.last.id
    {"pause" => {}, "skip_step" => {}, "move_to" => {step_id: last}, "take_out" => {}}.each do |kind, more|
      change = act.call(kind, **more)
      expect(change["words"]).to include("1 person"), kind
      undone = call_api(:post, "/api/changes/#{change["id"]}/undo", {})
      expect(undone.values_at("state", "kept", "stays_out")).to eq(["undone", 0, 0]), kind
      expect(draft.refresh.state).to eq("running")
    end
    act.call("take_out")
    # With its only member the sequence has ended.
    call_api(:post, "/api/changes", {act: {kind: "pause", sequence_id: draft.id}, people: {ids: [person.id]}}, status: 422)
  end

  it "keeps sets of statuses, which are a response, and which one a member begins with" do
    standard = call_api(:get, "/api/status-sets")["sets"].first
    expect(standard["statuses"].map { |one| one["words"] }).to eq(Core::Statuses::Ladder.new.rungs.map(&:words))
    statuses = [{words: "Asked", events: ["joined"]}, {words: "Came", response: true, events: ["converted"], default: true}]
    made = call_api(:post, "/api/status-sets", {name: "Open evening", statuses: statuses}, status: 201)
    expect(made["statuses"].map { |one| one.values_at("key", "default") }).to eq([["asked", nil], ["came", true]])
    draft.update(status_set_id: made["id"])
    lay_out
    start(draft.refresh)
    expect(Records::Member.select_map(:status)).to eq(["came"])
    less = {version: 1, statuses: [made["statuses"].first, {words: "Did not come"}]}
    refused = call_api(:patch, "/api/status-sets/#{made["id"]}", less, status: 422)
    expect(refused["error"]["message"]).to include("1 have the status “Came”")
    {[{words: "One"}] => "from 2 to 20", [{words: "A"}, {words: "a "}] => "the same name",
     [{words: "A", events: ["sang"]}, {words: "B"}] => "sang",
     [{words: "A", events: ["sent"]}, {words: "B", events: ["sent"]}] => "at two",
     [{words: "A", default: true}, {words: "B", default: true}] => "begins with one"}.each do |wrong, words|
      expect(call_api(:post, "/api/status-sets", {name: "X", statuses: wrong}, status: 422)["error"]["message"]).to include(words)
    end
  end

  it "keeps what can come of a task, and what a conversion can be" do
    outcomes = call_api(:get, "/api/own-words/outcomes")["words"]
    renamed = [outcomes.first.merge("words" => "had a talk"), {words: "Left a card"}]
    kept = call_api(:put, "/api/own-words/outcomes", {words: renamed})["words"]
    expect(kept).to eq([{"key" => "spoke", "words" => "had a talk"}, {"key" => "left_a_card", "words" => "Left a card"}])
    expect(Work::OwnWords.say("outcomes", "not_now")).to eq("not_now")
    call_api(:put, "/api/own-words/conversions", {words: []}, status: 422)
    call_api(:get, "/api/own-words/shoes", status: 404)
  end

  it "is closed on some days: what waits for one of them goes on the next that is worked" do
    start(make_sequence(people: [person, make_person(email: nil)], letters: [letter], mailbox: mailbox))
    day = Records::Delivery.get(:due_at).to_date
    closed = call_api(:put, "/api/closed-days", {closed: [{from: day.iso8601, to: (day + 1).iso8601, words: "Stocktaking"}]})
    expect(closed["closed"].first["words"]).to eq("Stocktaking")
    expect(Records::Delivery.get(:due_at).to_date).to eq(day + 2)
    call_api(:put, "/api/closed-days", {closed: [{from: "2026-06-02", to: "2026-06-01"}]}, status: 422)
    far = call_api(:put, "/api/closed-days", {closed: [{from: "2026-06-01", to: "2026-09-30"}]}, status: 422)
    expect(far["error"]["message"]).to include("No working day")
    expect(call_api(:get, "/api/closed-days")).to eq(closed)
  end

  it "keeps the holidays of where somebody lives, by their clock" do
    abroad, unknown = make_person(country: "Germany"), make_person(country: "Atlantis")
    # Ascension Day is a holiday there, and none here.
    at = moment(Time.utc(2026, 5, 13, 18))
    days = [abroad, unknown].map { |one| at.calendar_of(one).working_day?(Date.new(2026, 5, 14)) }
    expect(days).to eq([false, true])
    started = start(make_sequence(people: [abroad, unknown], letters: [letter], mailbox: mailbox), at: at.now)
    due = Records::Delivery.where(sequence_id: started.id).order(:person_id).select_map(:due_at).map(&:to_date)
    expect(due).to eq([Date.new(2026, 5, 15), Date.new(2026, 5, 14)])
  end
end
