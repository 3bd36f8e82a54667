# frozen_string_literal: true

RSpec.describe "adding people to a sequence that runs" do
  let(:first) { make_person }
  let(:gone) { make_person }
  let(:fresh) { make_person }
  let(:sequence) { start(make_sequence(people: [first, gone])) }

  before do
    member = Records::Member.first(sequence_id: sequence.id, person_id: gone.id)
    member.update(status: "replied")
    Work::Leaving.call(member, "taken_out", at: now)
  end

  def joining(again = "leave_out") = Work::AddPeople.new(sequence, {"people" => [first.id, gone.id, fresh.id]}, moment, again: again)

  it "passes over who is in it, and says for how many the status would be kept or reset" do
    expect(joining.preview).to include(fresh: 1, letters: 2, again: [{status: "replied", words: "replied", people: 1}])
    expect(joining("keep").preview[:letters]).to eq(4)
    expect(joining.preview[:sieve]).to include(matching: 3, would_get_it: 2)
  end

  let(:begins) { Core::Statuses::Ladder.new.first }

  it "makes members with their letters, the status kept or reset as was said" do
    expect { joining("keep").call(letters: 3) }.to raise_error(Conflict)
    expect(joining("keep").call(letters: 4)).to eq(2)

    expect(Records::Member.where(sequence_id: sequence.id).order(:id).select_map(%i[person_id round state status])).to eq(
      [
        [first.id, 1, "active", begins],
        [gone.id, 1, "left", "replied"],
        [gone.id, 2, "active", "replied"],
        [fresh.id, 1, "active", begins]
      ]
    )
    expect(figures(sequence)["planned"]).to eq(8)
  end

  it "refuses nobody, and a sequence that has ended" do
    joining.call(letters: 2)
    expect { joining.call(letters: 0) }.to raise_error(Invalid)
    sequence.update(state: "ended")
    expect { joining }.to raise_error(Invalid)
  end

  it "names how many would wait with a gap, and adds them only with that number" do
    sequence
    Records::Letter.each { |letter| letter.update(body: document("How is {{city}}?")) }
    Records::FrozenPlan.where(sequence_id: sequence.id).update(letters: nil)
    fresh.update(city: nil)
    expect(joining.preview).to include(letters: 2, gaps: 2)
    expect { joining.call(letters: 2) }.to raise_error(Conflict, /2 with a gap now, not 0/)
    expect(joining.call(letters: 2, gaps: 2)).to eq(1)
  end
end
