# frozen_string_literal: true

# Acts on members whose plan is another than the one in effect, and what is taken back after a plan was changed.
RSpec.describe "acts on members across a change of plan" do
  let(:maren) { make_account }
  let(:people) { Array.new(2) { make_person } }
  let!(:sequence) { start(make_sequence(people: people, letters: Array.new(3) { make_letter })) }
  let(:steps) { PlanInput.of(sequence.refresh) }
  let(:fresh) { steps.first(2) + [{"kind" => "letter", "letter_id" => make_letter.id, "amount" => 2, "unit" => "days"}] }

  def members = sequence.members_dataset.order(:id)

  def act(kind, **more)
    json = {"kind" => kind, "sequence_id" => sequence.id, **more.transform_keys(&:to_s)}
    by = moment(account: maren)
    Work::ChangeMany.start(Work::Act.new(json, by), Records::Person.where(id: people.map(&:id)), moment: by)
  end

  def take_effect(steps)
    change = Work::ChangePlan.new(sequence.refresh, moment(account: maren))
    change.propose({steps: steps}, version: sequence.proposal_version)
    Work::ChangePlan.new(sequence.refresh, moment(account: maren)).effect(version: sequence.refresh.proposal_version)
  end

  it "move whoever still carries the plan before to a step that only the new one has, by the new one" do
    take_effect(fresh)
    new_step = sequence.refresh.steps.last.id
    act("move_to", step_id: new_step)
    expect(members.select_map(%i[step_id plan state])).to all(eq([new_step, 2, "active"]))
    expect(Records::Delivery.where(step_id: new_step, state: "due").count).to eq(2)
    expect(Work::ApplyPlan.round(moment)).to eq(0)
  end

  it "are taken back to a step that is gone by now, from which its members go on with the next" do
    second, third = sequence.steps.last(2).map(&:id)
    act("move_to", step_id: second)
    change = act("skip_step")
    expect(members.select_map(:step_id)).to all(eq(third))
    take_effect([steps.first, steps.last])
    Work::ApplyPlan.round(moment)
    expect(members.select_map(:plan)).to all(eq(2))
    undone = Work::TakeBack.start(Records::ChangeSet[change.id], moment: moment(account: maren))
    expect([undone.state, undone.kept]).to eq(["undone", 0])
    Work::ApplyPlan.round(moment)
    expect(members.select_map(%i[step_id plan state])).to all(eq([third, 2, "active"]))
    expect(Records::Delivery.where(step_id: third, state: "due").count).to eq(2)
  end

  it "skip what they stand before in the plan they carry" do
    take_effect([steps.first, steps.last])
    act("move_to", step_id: sequence.refresh.steps.last.id)
    act("skip_step")
    expect(members.select_map(:state)).to all(eq("finished"))
  end
end
