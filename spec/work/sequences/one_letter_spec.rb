# frozen_string_literal: true

# One letter, written by hand to somebody.
RSpec.describe Work::OneLetter do
  let(:people) { [make_person, make_person] }
  let(:maren) { make_account }

  before { make_mailbox(account_id: maren.id) }

  def moment(at = now) = super(at, account: maren)

  def write(letter = {}, name: nil, to: people)
    Work::PlanSequence.make(name: name, audience: {"people" => to.map(&:id)}, letter: letter, moment: moment).refresh
  end

  def letter_of(sequence) = sequence.steps.first.letter

  def type(letter, **words)
    Work::WriteLetter.new(moment).change(letter.refresh, {version: letter.version, **words.transform_values { |text| line(text) }})
  end

  def line(text) = text.is_a?(String) ? document(text) : text

  it "is a draft that leaves as soon as it is sent, whatever the hour" do
    sequence = write
    expect(described_class.of?(sequence)).to be(true)
    expect(letter_of(sequence)).to have_attributes(manner: "plain", named: false)
    type(letter_of(sequence), subject: "A quieter spring", body: "Dear you,")
    ready = Work::ReadyCheck.new(sequence.refresh, moment).call
    expect(ready).to include(ready: true, letters: 2, first_at: now, last_at: now, keeps: [])
  end

  it "is none where something else belongs to it" do
    tag = Records::Tag.named("press").id
    joining, longer, empty = write, make_sequence(people: people), make_sequence(people: people, letters: [])
    Work::KeepRule.make(joining, {kind: "tag", settings: {tag_id: tag}, live: true, now_too: false}, moment: moment)
    expect([joining, longer, empty].map { |one| described_class.of?(one.refresh) }).to eq([false] * 3)
  end

  it "goes by its subject until somebody names it" do
    sequence = write
    expect([sequence.name, letter_of(sequence).name]).to eq(["Letter of 12 May"] * 2)
    letter = type(letter_of(sequence), subject: "A quieter spring")
    expect([sequence.refresh.name, letter.name]).to eq(["A quieter spring"] * 2)
    type(letter, subject: "")
    expect(sequence.refresh.name).to eq("Letter of 12 May")
    Work::WriteLetter.new(moment).change(letter.refresh, {version: letter.version, name: "Spring"})
    type(letter, subject: "Something else")
    expect([sequence.refresh.name, letter.refresh.name]).to eq(["Spring"] * 2)
  end

  it "keeps the name somebody gave the sequence" do
    sequence = write(name: "To the leads")
    type(letter_of(sequence), subject: "A quieter spring")
    expect(sequence.refresh.name).to eq("To the leads")
    other = write
    Work::PlanSequence.change(other, {version: other.version, name: "Mine"}, moment: moment)
    type(letter_of(other), subject: "Another")
    expect(other.refresh.name).to eq("Mine")
  end

  it "goes by its first letter once others follow, and by another letter in its place" do
    sequence = write
    first, later = letter_of(sequence), make_letter(name: "Later", named: false)
    steps = [*PlanInput.of(sequence), {"kind" => "letter", "letter_id" => later.id, "amount" => 3, "unit" => "days"}]
    Work::PlanSequence.change(sequence, {version: sequence.version, steps: steps}, moment: moment)
    type(later, subject: "A word later")
    expect(sequence.refresh.name).to eq(first.refresh.name)
    type(first, subject: "A first word")
    expect(sequence.refresh.name).to eq("A first word")
    steps = [{"id" => sequence.steps.first.id, **described_class::NOW, "kind" => "letter", "letter_id" => make_letter(name: "Prices").id}]
    Work::PlanSequence.change(sequence, {version: sequence.version, steps: steps}, moment: moment)
    expect(sequence.refresh.name).to eq("Prices")
  end

  it "goes by the subject of a version that one goes back to" do
    sequence = write
    letter = type(letter_of(sequence), subject: "First")
    version = Records::LetterVersion.where(letter_id: letter.id).order(:number).last
    petra = Work::WriteLetter.new(Work::Moment.new(now: now, account: make_account, firm: firm))
    petra.change(letter.refresh, {version: letter.version, subject: document("Second")})
    expect(sequence.refresh.name).to eq("Second")
    petra.restore(letter.refresh, version, number: letter.version)
    expect([letter.refresh.name, sequence.refresh.name]).to eq(["First"] * 2)
  end

  it "is one of the library itself, or a copy of it" do
    letter = make_letter(name: "The price list")
    itself, copy = write({"letter_id" => letter.id}), write({"letter_id" => letter.id, "copy" => true})
    expect([letter_of(itself).id, itself.name]).to eq([letter.id, "The price list"])
    expect(letter_of(copy)).to have_attributes(name: "The price list, copy", body: letter.body)
    expect(letter_of(copy).id).not_to eq(letter.id)
    expect { write({"letter_id" => 0}) }.to raise_error(Invalid, /no such letter/)
    expect(Records::Sequence.count).to eq(2)
  end

  describe "what nobody has written in" do
    let(:writing) { Work::WriteLetter.new(moment) }

    it "can be taken away, and nothing else" do
      untouched = writing.make
      writing.discard(untouched)
      expect(Records::Letter[untouched.id]).to be_nil
      written = type(writing.make, subject: "Words")
      named = writing.make({name: "Mine"})
      used = letter_of(write)
      [written, named, used].each { |letter| expect { writing.discard(letter) }.to raise_error(Invalid, /stays/) }
    end
  end
end
