# frozen_string_literal: true

# What an act makes of where somebody stands.
RSpec.describe Work::MovingMember do
  let(:person) { make_person }
  let(:sequence) { start(make_sequence(people: [person], letters: [make_letter, make_letter])) }
  let(:ids) { sequence.steps.map(&:id) }

  def held(step_id) = {"state" => "active", "step_id" => step_id, "base" => now.iso8601(6), "paused_at" => nil}

  def skipped(step_id) = described_class.new("skip_step", sequence, moment).call(held(step_id))

  it "skips to the step behind, and from the last one to the end" do
    expect(skipped(ids.first)).to include("state" => "active", "step_id" => ids.last)
    expect(skipped(ids.last)).to include("state" => "finished", "step_id" => nil)
  end

  it "leaves alone who still carries a plan whose step is gone" do
    gone = make_sequence.steps.first.id
    expect(skipped(gone)).to eq(held(gone))
    set = Work::Act.new({"kind" => "skip_step", "sequence_id" => sequence.id}, moment(account: make_account))
    Records::Member.where(sequence_id: sequence.id).update(step_id: gone)
    Work::ChangeMany.start(set, Records::Person.where(id: person.id), moment: moment(account: make_account))
    expect(Records::Member.where(sequence_id: sequence.id).get(:step_id)).to eq(gone)
  end
end
