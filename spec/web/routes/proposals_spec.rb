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

  def plan = Core::Journey::PlanJson.write(sequence.refresh.plan)

  def added = steps + [{"kind" => "letter", "letter_id" => third.id, "amount" => 2, "unit" => "days"}]

  it "says beforehand who gets more, fewer, later or sooner, opens them, and does nothing yet" do
    before = [Records::Step.count, plan, Records::Delivery.select_order_map(%i[id due_at])]
    expect(propose(added)["counts"]).to include("more" => 4, "untouched" => 0)
    expect(call_api(:get, path("/people?kind=more"))["total"]).to eq(4)
    expect(propose(steps.first(1), version: 1)["counts"]).to include("fewer" => 4)
    later = steps.tap { |plan| plan.first["amount"] = 4 }
    expect(propose(later, version: 2)["counts"]).to include("later" => 4)
    expect(propose(steps, version: 3)["counts"]).to include("untouched" => 4)
    expect([Records::Step.count, plan, Records::Delivery.select_order_map(%i[id due_at])]).to eq(before)
  end

  it "takes effect as a plan with a number, and moves whoever is on the way; what somebody had stays" do
    all.dispatch_due(Records::Delivery.max(:due_at))
    proposed = propose([steps.first, *added.drop(2)])
    changed = call_api(:post, path("/effect"), {version: proposed["version"]})
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
    expect(call_api(:post, path("/discard"), {version: 1})).to eq("version" => 2, "proposed" => false, "letters" => [])
    call_api(:post, path("/effect"), {version: 2}, status: 422)
  end

  it "leaves whoever cannot be moved in the plan they carry, shows them, and moves the others" do
    call_api(:post, path("/effect"), {version: propose(added)["version"]})
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
    expect(call_api(:get, path)["counts"]).to include("more" => 4)
    draft = make_sequence
    call_api(:put, "/api/sequences/#{draft.id}/proposal", {version: 0, steps: []}, status: 422)
  end
end
