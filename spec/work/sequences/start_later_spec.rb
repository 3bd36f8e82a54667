# frozen_string_literal: true

RSpec.describe Work::StartLater do
  let(:sequence) { make_sequence(people: [make_person, make_person]) }
  let(:later) { now + 3 * 86_400 }

  def plan(at: later, letters: 4, **more) =
    described_class.plan(sequence, at: at.iso8601, version: sequence.refresh.version, letters: letters, moment: moment, **more)

  it "starts at its time, with the letters of that time, and only once" do
    plan
    expect(described_class.next_due(after: now)).to eq(later)
    expect(described_class.round(moment(later - 1))).to eq(0)
    expect(described_class.round(moment(later))).to eq(1)
    expect(described_class.round(moment(later))).to eq(0)
    expect(sequence.refresh).to have_attributes(state: "running", started_at: later, start_at: nil)
    expect(sequence.members_dataset.count).to eq(2)
  end

  it "is taken off by a change of the plan, not by a change of the name, and by hand" do
    plan
    Work::PlanSequence.change(sequence.refresh, {version: sequence.version, name: "Another"}, moment: moment)
    expect(sequence.refresh.start_at).to eq(later)
    Work::PlanSequence.change(sequence, {version: sequence.version, steps: PlanInput.of(sequence)}, moment: moment)
    expect(sequence.refresh.start_at).to be_nil
    plan
    described_class.cancel(sequence.refresh, version: sequence.version, moment: moment)
    expect(described_class.round(moment(later))).to eq(0)
  end

  it "does not start what is not ready by then, and says why" do
    plan
    sequence.steps.first.letter.update(body: document("How is {{city}}?"))
    Records::Person.each { |person| person.update(city: nil) }
    expect(described_class.round(moment(later))).to eq(0)
    expect(sequence.refresh).to have_attributes(state: "draft", start_at: nil, start_refused: /2 letters of “A word” have a gap/)
    expect(described_class.round(moment(later + 60))).to eq(0)
  end

  it "starts with the gaps that were read back, and not with far more" do
    sequence.steps.first.letter.update(body: document("How is {{city}}?"))
    Records::Person.first.update(city: nil)
    expect { plan }.to raise_error(Conflict) { |error| expect(error.data).to include(gaps: 1) }
    plan(gaps: 1)
    expect(described_class.round(moment(later))).to eq(1)
  end

  it "does not start as far more letters than were read back" do
    lead = {"condition" => {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}}
    sequence.update(audience: lead)
    plan
    make_people(9)
    expect(described_class.round(moment(later))).to eq(1)
    other = make_sequence.update(audience: lead)
    letters = Work::ReadyCheck.new(other, moment).call[:letters]
    described_class.plan(other, at: later.iso8601, version: other.version, letters: letters, moment: moment)
    make_people(20) # nine of them have an address that is there already
    described_class.round(moment(later))
    refused = "It would be #{letters + 22} letters by now; #{letters} were read back."
    expect(other.refresh).to have_attributes(state: "draft", start_refused: refused)
  end

  describe "with a rule by which people join at once" do
    let(:rule) { {kind: "tag", settings: {tag_id: Records::Tag.named("press").id}, live: true, now_too: true} }

    def wear(people) =
      people.each { |one| change_person(one, {"person.tags" => ["press"]}) }

    before { Work::KeepRule.make(sequence, rule, moment: moment) }

    it "does not start with far more of them than were read back" do
      plan
      wear(Array.new(20) { make_person })
      expect(described_class.round(moment(later))).to eq(1)
      other = make_sequence(people: [make_person])
      Work::KeepRule.make(other, rule, moment: moment)
      described_class.plan(other, at: later.iso8601, version: other.version, letters: 2, joining: 20, moment: moment)
      wear(Array.new(23) { make_person })
      described_class.round(moment(later))
      expect(other.refresh).to have_attributes(state: "draft",
        start_refused: "It would be 43 people who join at once by now; 20 were read back.")
    end

    it "is taken off when that rule changes, another is made, or it goes" do
      kept = Records::JoinRule.first(sequence_id: sequence.id)
      changes = [-> { Work::KeepRule.change(kept, {version: kept.version, now_too: false}, moment: moment) },
        -> { Work::KeepRule.make(sequence, {kind: "file"}, moment: moment) }, -> { Work::KeepRule.drop(kept.refresh, moment: moment) }]
      changes.each do |change|
        plan
        expect { change.call }.to change { sequence.refresh.start_at }.from(later).to(nil)
      end
    end
  end

  it "keeps nothing else from going on, whatever goes wrong with it" do
    plan
    other = make_sequence(people: [make_person])
    described_class.plan(other, at: later.iso8601, version: other.version, letters: 2, moment: moment)
    allow(Work::ReadyCheck).to receive(:new).and_wrap_original do |check, draft, *rest|
      raise "odd" if draft.id == sequence.id

      check.call(draft, *rest)
    end
    expect(described_class.round(moment(later))).to eq(1)
    expect(sequence.refresh).to have_attributes(state: "draft", start_at: nil, start_refused: "runtime error: odd")
    expect(other.refresh.state).to eq("running")
  end

  it "takes no time that is past, no other number, and nothing that is not ready" do
    expect { plan(at: now) }.to raise_error(Invalid, /past/)
    expect { plan(letters: 5) }.to raise_error(Conflict)
    sequence.steps.first.update(letter_id: nil)
    expect { plan }.to raise_error(Invalid, /missing/)
    expect(sequence.refresh.start_at).to be_nil
  end
end
