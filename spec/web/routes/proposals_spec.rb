# frozen_string_literal: true

# A sequence is changed while it runs: proposed, reckoned, and then let take effect.
RSpec.describe "changing a sequence that runs, over the API" do
  let!(:maren) { sign_in }
  let(:people) { Array.new(4) { make_person } }
  let!(:sequence) { start(make_sequence(people: people, letters: Array.new(2) { make_letter })) }
  let(:third) { make_letter(name: "A third word") }
  let(:all) { worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))) }

  def path(more = "") = "/api/sequences/#{sequence.id}/proposal#{more}"

  def steps = PlanInput.of(sequence.refresh)

  def propose(steps, version: 0, status: 200, **more) = call_api(:put, path, {version: version, steps: steps, **more}, status: status)

  def told(more = "?counts=true") = call_api(:get, path(more))

  def counts = told["counts"]

  def plan = Core::Journey::PlanJson.write(sequence.refresh.plan)

  def added = steps + [{"kind" => "letter", "letter_id" => third.id, "amount" => 2, "unit" => "days"}]

  it "says beforehand who gets more, fewer, later or sooner, opens them, and does nothing yet" do
    before = [plan, Records::Delivery.select_order_map(%i[id due_at])]
    propose(added)
    expect(counts).to include("more" => 4, "untouched" => 0)
    expect(call_api(:get, path("/people?kind=more"))["total"]).to eq(4)
    propose(steps.first(1), version: 1)
    expect(told).to include("counts" => a_hash_including("fewer" => 4), "out" => [a_hash_including("words" => "A word")])
    propose(steps.tap { |plan| plan.first["amount"] = 4 }, version: 2)
    expect(counts).to include("later" => 4)
    expect([plan, Records::Delivery.select_order_map(%i[id due_at])]).to eq(before)
  end

  it "refuses to let everybody leave, proposed or laid out" do
    either = {"any" => [{"all" => []}, {"field" => "person.city", "is" => "empty"}]}
    everybody = [{"all" => []}, {}, {"not" => {"any" => []}}, {"all" => [either]}]
    everybody.each do |condition|
      refused = call_api(:put, path, {version: 0, leave_if: condition}, status: 422)["error"]
      expect(refused).to include("code" => "everybody_leaves", "at" => "leave_if"), condition.inspect
    end
    draft = make_sequence
    call_api(:patch, "/api/sequences/#{draft.id}", {version: draft.version, leave_if: {all: []}}, status: 422)
    some = {"not" => {"field" => "person.city", "is" => "empty"}}
    expect(call_api(:put, path, {version: 0, leave_if: some})["leave_if"]).to eq(some)
  end

  it "counts a step right before people as one more for them, or for people who arrive later only, and does what it says" do
    inserted = [{"kind" => "letter", "letter_id" => third.id, "amount" => 1, "unit" => "days"}, *steps]
    propose(inserted)
    expect([counts.slice("more", "untouched"), told["only_later"]]).to eq([{"more" => 4, "untouched" => 0}, false])
    call_api(:put, path, {version: 1, only_later: true})
    expect(told).to include("only_later" => true, "counts" => a_hash_including("more" => 0, "untouched" => 4))
    call_api(:post, path("/effect"), {version: 2})
    Work::ApplyPlan.round(moment)
    due = Records::Delivery.where(sequence_id: sequence.id, state: "due").select_map(:letter_id)
    expect([due.uniq, sequence.members_dataset.select_map(:plan)]).to eq([[steps[1]["letter_id"]], [2, 2, 2, 2]])
    later = make_person
    Work::AddPeople.new(sequence.refresh, {"people" => [later.id]}, moment).call(letters: 3)
    expect(Records::Delivery.where(person_id: later.id).get(:letter_id)).to eq(third.id)

    letter = sequence.refresh.steps.first
    call_api(:put, path, {version: 3, steps: steps.drop(1)})
    call_api(:post, path("/effect"), {version: 4})
    before = {"kind" => "letter", "letter_id" => letter.letter_id, "amount" => 1, "unit" => "days"}
    call_api(:put, path, {version: 5, steps: [before, *steps]})
    expect(counts.slice("more", "instead")).to eq("more" => 4, "instead" => 1)
    call_api(:post, path("/effect"), {version: 6})
    Work::ApplyPlan.round(moment)
    expect(Records::Delivery.where(sequence_id: sequence.id, state: "due").select_map(:letter_id).tally).to eq(third.id => 5)
  end

  it "counts letters in new words once: people who will get them, and people who may come to them by a lane" do
    fork = {"kind" => "fork", "within" => {"amount" => 2, "unit" => "days"}, "lanes" => [
      {"test" => {"kind" => "opened"}, "steps" => [{"kind" => "letter", "letter_id" => third.id, "amount" => 1, "unit" => "days"}]}
    ]}
    propose([steps.first, fork, *steps.drop(1)])
    call_api(:post, path("/effect"), {version: 1})
    Work::ApplyPlan.round(moment)
    rewritten = [third, Records::Letter[steps.first["letter_id"]]]
    rewritten.each { |one| one.change!({preview: document("Another hour")}, version: 1, now: now) }
    all.dispatch_due(Records::Delivery.where(state: "due").min(:due_at))
    first, by_lane = told["letters"].sort_by { |one| one["letter_id"] }
    expect([first.slice("to_come", "may_come"), by_lane.slice("to_come", "may_come")])
      .to eq([{"to_come" => 3, "may_come" => 0}, {"to_come" => 0, "may_come" => 4}])
    propose(steps.tap { |plan| plan.last["amount"] = 9 }, version: 2)
    expect(counts.slice("other_words", "untouched", "later").values.sum).to eq(4)
    expect(call_api(:get, path("/people?kind=may_come&of=#{third.id}"))["total"]).to eq(4)
  end

  it "counts whatever they come to, not letters alone, and what moves further on" do
    task = {"kind" => "task", "words" => "Ring them", "amount" => 1, "unit" => "days"}
    propose(steps + [task])
    expect(counts).to include("more" => 4)
    propose(steps.first(1) + [{"kind" => "letter", "letter_id" => third.id, "amount" => 3}], version: 1)
    expect(counts).to include("instead" => 4)
    propose(steps.tap { |plan| plan.last["amount"] = 1 }, version: 2)
    expect(counts).to include("sooner" => 4)
  end

  it "counts the same whether or not whoever has the same ahead is walked through both plans" do
    all.dispatch_due(Records::Delivery.max(:due_at))
    fork = {"kind" => "fork", "within" => {"amount" => 2, "unit" => "days"}, "lanes" => [{"test" => {"kind" => "opened"}, "steps" => []},
      {"test" => nil, "steps" => [{"kind" => "task", "words" => "Ring", "amount" => 1}]}]}
    [added, steps.drop(1), steps.reverse, [*steps, fork], steps.tap { |plan| plan.last["amount"] = 9 }].each_with_index do |plan, version|
      propose(plan, version: version)
      quick = counts
      allow_any_instance_of(Work::Reckoning).to receive(:same_ahead?).and_return(false)
      expect(counts).to eq(quick)
      allow_any_instance_of(Work::Reckoning).to receive(:same_ahead?).and_call_original
    end
  end

  it "says beforehand how many have nothing for a field of a letter that is new" do
    people.first(3).each { |person| person.update(city: nil) }
    people.last.update(city: "Hull")
    asking = make_letter(name: "To your town", body: "Dear all of {{city}},")
    propose(steps + [{"kind" => "letter", "letter_id" => asking.id, "amount" => 2, "unit" => "days"}])
    gap = told["gaps"].first
    expect(gap).to include("words" => "To your town", "people" => 3)
    names = call_api(:get, path("/people?kind=step_gap&of=#{gap["step_id"]}"))["people"].map { |one| one["id"] }
    expect(names).to match_array(people.first(3).map(&:id))
    expect(call_api(:get, path("/people?kind=step_gap&of=#{steps.first["id"]}"))["total"]).to eq(0)
    propose(added, version: 1)
    expect(told["gaps"]).to eq([])
  end

  it "is shown as the plan it would be, in which what is new has its number, and stays while it is changed on" do
    shown = propose(added)
    expect(shown["steps"].map { |step| step["proposed"] }).to eq([nil, nil, "new"])
    fork = {"kind" => "fork", "id" => -5, "within" => {"amount" => 2, "unit" => "days"}, "lanes" => [
      {"test" => {"kind" => "opened", "step_id" => -3}, "steps" => []}, {"test" => nil, "steps" => []}
    ]}
    letter = {"kind" => "letter", "id" => -3, "letter_id" => third.id, "amount" => 1, "unit" => "days"}
    numbers = propose([*steps, letter, fork], version: 1)["steps"].map { |step| step["id"] }
    call_api(:put, path, {version: 2, leave_on: []})
    shown = call_api(:get, path("/plan"))
    expect(shown).to include("leave_on" => [], "proposal" => a_hash_including("version" => 3, "proposed" => true))
    expect(shown["steps"].map { |step| step["id"] }).to eq(numbers)
    expect(shown["steps"].last["lanes"].first["test"]["step_id"]).to eq(numbers[2])
    effect = call_api(:post, path("/effect"), {version: 3})
    expect([effect["steps"].map { |step| step["id"] }, effect["leave_on"]]).to eq([numbers, []])
  end

  it "is none any more when all is as it runs again" do
    propose(added)
    expect(propose(steps, version: 1)["proposal"]).to include("proposed" => false, "version" => 2)
    propose(steps, version: 2)
    expect(told).to include("proposed" => false)
  end

  it "may have something still to be said, which keeps it from being counted and from taking effect" do
    half = steps + [{"kind" => "task", "amount" => 1, "unit" => "days"}, {"kind" => "letter", "letter_id" => nil}]
    expect(propose(half)["steps"].map { |step| step["missing"] }).to eq([nil, nil, "nothing said to do", "no letter chosen"])
    expect(told["unsaid"].map { |one| one["words"] }).to eq(["Step 3: nothing said to do", "Step 4: no letter chosen"])
    expect(told).not_to have_key("counts")
    expect(call_api(:post, path("/effect"), {version: 1}, status: 422)["error"]).to include("code" => "half_made")
    expect(sequence.plans_dataset.count).to eq(1)
  end

  it "takes effect as a plan with a number, and moves whoever is on the way; what somebody had stays" do
    all.dispatch_due(Records::Delivery.max(:due_at))
    propose([steps.first, *added.drop(2)])
    changed = call_api(:post, path("/effect"), {version: 1})
    expect(changed["steps"].map { |step| step["headline"] }).to eq(["A word", "A third word"])
    at = now + 5 * 3600
    expect { all.dispatch_due(at) }.to change { sequence.members_dataset.where(plan: 2).count }.from(0).to(4)
    expect(Records::Delivery.where(sequence_id: sequence.id).group_and_count(:state).as_hash(:state, :count)).to include("sent" => 4)
    all.dispatch_due(at) while (at = all.next_due(after: at))
    sent = Records::Delivery.where(sequence_id: sequence.id, state: "sent").select_map(:letter_id).tally
    expect(sent).to eq(sequence.refresh.steps.first.letter_id => 4, third.id => 4)
    expect(Records::SequenceEvent.where(sequence_id: sequence.id).select_map(:kind)).to include("plan_changed")
    expect(call_api(:get, path)).to eq("version" => 2, "proposed" => false, "letters" => [])
    call_api(:get, "/api/people/#{people.first.id}/history")
    expect(last_response.body).to include("The plan of “Quieter rooms” was changed")
  end

  it "is one proposal, shared by colleagues, of which nobody overwrites another's" do
    propose(added)
    expect(call_api(:get, path)).to include("by" => maren.name, "proposed" => true)
    propose(steps, status: 409)
    call_api(:post, path("/effect"), {version: 0}, status: 409)
    expect(call_api(:post, path("/discard"), {version: 1})["proposal"]).to include("version" => 2, "proposed" => false)
    call_api(:post, path("/effect"), {version: 2}, status: 422)
  end

  it "leaves whoever cannot be moved in the plan they carry, shows them, and moves the others" do
    propose(steps.tap { |plan| plan.first["amount"] = 4 })
    call_api(:post, path("/effect"), {version: 1})
    odd = sequence.members_dataset.order(:id).first
    allow(Work::Knowing).to receive(:people).and_wrap_original do |original, ids, plan|
      raise "odd" if ids.include?(odd.person_id)

      original.call(ids, plan)
    end
    3.times { Work::ApplyPlan.round(moment) }
    expect(sequence.members_dataset.order(:id).select_map(:plan)).to eq([1, 2, 2, 2])
    expect(Records::SetAside.where(kind: "journey").select_map(%i[key tries])).to eq([[odd.id.to_s, 1]])
  end

  it "asks for the password again where it moves very many" do
    propose(added)
    stub_const("NimbleLetter::Work::Moment::MANY", 3)
    stale = Work::Moment.new(now: now, fresh: false)
    expect { Work::ChangePlan.new(sequence.refresh, stale).effect(version: 1) }.to raise_error(Forbidden)
    expect(sequence.plans_dataset.count).to eq(1)
  end

  it "refuses what cannot be, and keeps what was proposed" do
    propose(added)
    propose([], version: 1, status: 422)
    other_kind = steps.tap { |plan| plan.first.replace("id" => plan.first["id"], "kind" => "task", "words" => "Ring") }
    propose(other_kind, version: 1, status: 422)
    expect(counts).to include("more" => 4)
    draft = make_sequence
    call_api(:put, "/api/sequences/#{draft.id}/proposal", {version: 0, steps: []}, status: 422)
    %w[more to_come step_gap].each do |kind|
      call_api(:get, "/api/sequences/#{draft.id}/proposal/people?kind=#{kind}&of=1", status: 422)
    end
  end
end
