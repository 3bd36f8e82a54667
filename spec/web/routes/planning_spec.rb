# frozen_string_literal: true

# What helps to lay out a plan, over the API: half-made steps, notes, timing as it is typed, when it is for one person and why.
RSpec.describe "laying out a plan, over the API" do
  let!(:maren) { sign_in }
  let(:person) { make_person(time_zone: "America/New_York") }
  let(:sequence) { make_sequence(people: [person]) }

  def path(more = "") = "/api/sequences/#{sequence.id}#{more}"

  def lay(steps, status: 200) = call_api(:patch, path, {version: sequence.refresh.version, steps: steps}, status: status)

  def steps = PlanInput.of(sequence.refresh)

  it "keeps steps that are half made, says what is missing on each, and starts none of it" do
    half = [{"kind" => "letter"}, {"kind" => "task"}, {"kind" => "change"}, {"kind" => "change", "what" => "tag", "to" => {"names" => []}},
      {"kind" => "hand_over"}, {"kind" => "fork", "lanes" => []}]
    told = lay(half)["steps"].map { |step| step["missing"] }
    expect(told).to eq(["no letter chosen", "nothing said to do", "nothing said to change", "nothing said to change", "no sequence chosen",
      "no lane yet"])
    remarks = call_api(:get, path("/ready"))["remarks"].select { |remark| remark["step_id"] }
    expect(remarks.map { |remark| remark["words"] }).to eq(told.each_with_index.map { |words, i| "Step #{i + 1}: #{words}." })
    call_api(:post, path("/start"), {version: sequence.refresh.version, letters: 0}, status: 422)
    expect(sequence.refresh.state).to eq("draft")
  end

  it "says of a letter on its card that nothing is written in it yet" do
    lay([{"kind" => "letter", "letter_id" => make_letter(body: "").id}, {"kind" => "letter", "letter_id" => make_letter(subject: "").id}])
    expect(call_api(:get, path)["steps"].map { |step| step["missing"] }).to eq(["nothing written yet", "no subject yet"])
  end

  it "shows with whom a step is looked at, whatever its kind, and counts no step that is out" do
    lay(steps.first(1) + [{"kind" => "task", "words" => "Ring"}])
    task = sequence.refresh.steps.last
    expect(call_api(:get, "/api/steps/#{task.id}/reader")).to include("person_id" => person.id, "total" => 1)
    row = call_api(:get, "/api/sequences")["sequences"].find { |one| one["id"] == sequence.id }
    expect(row).to include("steps" => 1, "start_at" => nil)
    act = {kind: "move_to", sequence_id: sequence.id, step_id: Records::Step.exclude(out_at: nil).get(:id)}
    call_api(:post, "/api/changes", {act: act, people: {ids: [person.id]}}, status: 422)
  end

  it "answers whatever is asked of a draft with half-made steps" do
    first = steps.first
    empty = {"test" => {"kind" => "clicked"}, "steps" => [{"kind" => "task"}, {"kind" => "change", "what" => "owner", "to" => nil}]}
    lay([first, {"kind" => "fork", "lanes" => [empty, {"test" => nil, "steps" => [{"kind" => "hand_over"}]}]}, {"kind" => "fork"},
      {"kind" => "task", "words" => ""}])
    step = sequence.refresh.steps.first.id
    %W[#{path} #{path("/ready")} #{path("/results")} #{path("/joining")} #{path("/proposal")} #{path("/members")} /api/sequences /api/today
      /api/steps/#{step}/stack /api/steps/#{step}/stack/next-gap?after=0 /api/steps/#{step}/when/#{person.id} /api/steps/#{step}/reader]
      .each { |asked| call_api(:get, asked) }
    call_api(:post, path("/rehearsal"), {assume: "everybody_opens"})
    call_api(:post, path("/rehearsal"), {person_id: person.id})
    call_api(:post, path("/start"), {version: sequence.refresh.version, letters: 1, at: (now + 86_400).iso8601}, status: 422)
    expect(sequence.refresh).to have_attributes(state: "draft", start_at: nil)
  end

  it "lets our own page frame the answer where a letter would be shown, and nothing else" do
    lay([{"kind" => "letter", "letter_id" => nil}])
    call_api(:get, "/api/steps/#{sequence.refresh.steps.first.id}/stack/#{person.id}/shown", status: 422)
    expect(last_response.headers["content-security-policy"]).to include("frame-ancestors 'self'", "default-src 'self'")
    call_api(:get, "/api/steps/0/reader", status: 404)
    expect(last_response.headers["content-security-policy"]).to include("frame-ancestors 'none'")
  end

  it "takes nobody for an owner, and an empty field, as said" do
    nobody = {"kind" => "change", "what" => "owner", "to" => {"owner_id" => nil}}
    empty = {"kind" => "change", "what" => "field", "to" => {"field" => "person.city", "value" => nil}}
    told = lay([steps.first, nobody, empty])["steps"]
    said = told.drop(1).map { |step| step.values_at("missing", "headline") }
    expect(said).to eq([[nil, "Give them to nobody"], [nil, "Set city to nothing"]])
    expect(call_api(:get, path("/ready"))["remarks"].select { |remark| remark["step_id"] }).to eq([])
  end

  it "still refuses what cannot be meant, and a running plan takes nothing half made" do
    lay([{"kind" => "change", "what" => "tag", "to" => {"list_id" => 3}}])
    lay([{"kind" => "hand_over", "sequence_id" => 99_999}], status: 422)
    lay([{"kind" => "task", "words" => "Ring", "of" => 99_999}], status: 422)
    lay([{"kind" => "fork", "lanes" => [{"test" => nil}, {"test" => nil}]}], status: 422)
    running = start(make_sequence)
    half = {version: 0, steps: PlanInput.of(running) + [{"kind" => "task"}]}
    call_api(:put, "/api/sequences/#{running.id}/proposal", half)
    call_api(:post, "/api/sequences/#{running.id}/proposal/effect", {version: 1}, status: 422)
    expect(running.refresh.plan.all.size).to eq(half[:steps].size - 1)
  end

  it "brings a step that was taken out back as it was, with what was written for one person" do
    Work::WriteIntoLetter.new(sequence.steps.last, person, moment).line("P.S.")
    whole = steps
    expect(lay(whole.first(1))["steps"].size).to eq(1)
    expect(lay(whole)["steps"].map { |step| step["id"] }).to eq(whole.map { |step| step["id"] })
    expect(Work::Stack.new(sequence.refresh.steps.last, moment).letter(person)[:line]).to eq("P.S.")
  end

  it "keeps notes in the margin, whether it runs or not, and nobody overwrites another's" do
    made = call_api(:post, path("/notes"), {text: " Ask Petra. ", step_id: sequence.steps.first.id}, status: 201)
    start(sequence)
    call_api(:post, path("/notes"), {text: "About all of it"}, status: 201)
    changed = call_api(:patch, "/api/plan-notes/#{made["id"]}", {text: "Asked.", version: 1})
    expect(changed).to include("text" => "Asked.", "by" => maren.name, "version" => 2)
    call_api(:patch, "/api/plan-notes/#{made["id"]}", {text: "Late", version: 1}, status: 409)
    expect(call_api(:get, path)["notes"].map { |note| [note["step_id"], note["text"]] })
      .to eq([[sequence.steps.first.id, "Asked."], [nil, "About all of it"]])
    call_api(:delete, "/api/plan-notes/#{made["id"]}")
    expect(call_api(:get, path)["notes"].size).to eq(1)
    ["", " "].each { |text| call_api(:post, path("/notes"), {text: text}, status: 422) }
    call_api(:post, path("/notes"), {text: "a" * 2001}, status: 400)
    call_api(:post, path("/notes"), {text: "x", step_id: make_sequence.steps.first.id}, status: 422)
  end

  it "reads timing as it is typed, by the names that dates have here" do
    expect(call_api(:post, "/api/timing", {text: "2 weeks before birthday, every year, at 9:00 our time"})).to eq(
      "counted" => "field", "field" => "person.birthday", "yearly" => true, "amount" => -2, "unit" => "weeks", "from_minute" => 540,
      "to_minute" => 540, "zone" => "ours"
    )
    expect(call_api(:post, "/api/timing", {text: "on 3 July 2026"})).to eq("counted" => "date", "on_date" => "2026-07-03", "amount" => 0)
    refused = call_api(:post, "/api/timing", {text: "when the moon is full"}, status: 422)
    expect(refused["error"]).to include("message" => /moon/, "hint" => /Say it like/)
  end

  it "says when a step is for one person, and why then, before and after the start" do
    second = sequence.steps.last
    told = call_api(:get, "/api/steps/#{second.id}/when/#{person.id}")
    expect(told).to include("what" => "send", "zone" => "America/New_York")
    expect(told["why"]).to match(/Counted from .*Between 9:00 and 11:30 by their clock/)
    started = start(sequence)
    again = call_api(:get, "/api/steps/#{second.id}/when/#{person.id}")
    expect(Time.iso8601(again["at"])).to be_within(60).of(Time.iso8601(told["at"]))
    member = started.members.first
    way = call_api(:get, "/api/members/#{member.id}/way")
    expect(way["ahead"].map { |stop| [stop["what"], stop["headline"]] })
      .to eq([["send", "A word"], ["send", "A second word"], ["finish", nil]])
    expect(way["past"].map { |entry| entry["kind"] }).to include("joined")
    call_api(:get, "/api/steps/#{second.id}/when/#{make_person.id}", status: 404)
  end

  it "adds up what is counted in hours, from the step before" do
    first, second = sequence.steps
    second.update(amount: 4, unit: "hours")
    told = [first, second].map { |step| call_api(:get, "/api/steps/#{step.id}/when/#{person.id}") }
    before = Core::Calendar::Zones.fetch("America/New_York").utc_to_local(Time.iso8601(told[0]["at"])).strftime("%a %-d %b, %-H:%M")
    expect(told[1]["why"]).to start_with("Counted from #{before}")
    expect(told[1]["why"]).to match(/: 4 hours later, and .* so that letters do not leave together, is .*\. Its hours are over by then/)
  end

  it "says when a step is behind somebody, or not ahead of them any more" do
    started = start(sequence)
    first, second = started.steps.map(&:id)
    whys = -> { [first, second].map { |id| call_api(:get, "/api/steps/#{id}/when/#{person.id}").values_at("what", "why") } }
    worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))).dispatch_due(Records::Delivery.max(:due_at))
    standing_clock.advance_to(Records::Delivery.where(step_id: first).get(:sent_at))
    expect(whys.call).to match([[nil, "It is behind them."], ["send", /Counted from/]])
    Work::Leaving.call(started.members.first, "taken_out", at: standing_clock.now)
    expect(whys.call).to eq([[nil, "It is behind them."], [nil, "They are not on the way any more."]])
  end

  it "says what a way waits for, and why somebody passes a step by" do
    york = {"field" => "person.city", "is" => "one_of", "value" => ["York"]}
    person.update(city: "Hull")
    lanes = [{"test" => {"kind" => "opened"}, "steps" => []}]
    fork = {"kind" => "fork", "within" => {"amount" => 3, "unit" => "working_days"}, "lanes" => lanes}
    lay([steps.first.merge("only_for" => york), fork, {"kind" => "task", "words" => "Ring them", "amount" => 1}])
    way = Work::WayThrough.of_prospect(sequence.refresh, person, moment).ahead
    expect(way.map(&:what)).to eq(%w[skip take do finish])
    expect(way.map(&:why)).to match([/do not meet/, /If nothing happens/, /Counted from/, nil])
  end
end
