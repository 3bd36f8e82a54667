# frozen_string_literal: true

RSpec.describe "a sequence that is copied, or goes out and comes in as a file" do
  let(:maren) { make_account }
  let(:at) { moment(account: maren) }
  let(:sequence) { make_sequence(people: [make_person]) }

  # What a plan is, whatever its steps and letters are numbered.
  def laid_out(one)
    words = ->(id) { Records::Letter[id]&.content&.values_at(:subject, :body) }
    Work::StepInputs.of(one).map { |step| step.except("id").merge("letter_id" => words.call(step["letter_id"])) }
  end

  it "is the same plan both ways, for whom its people stay at home" do
    copy = Work::CopySequence.call(sequence, moment: at)
    file = JSON.parse(Work::SequenceOut.new(sequence, at).file)
    brought = Work::SequenceIn.new(file, at).call({"name" => "Brought"})

    expect(laid_out(copy)).to eq(laid_out(sequence))
    expect(laid_out(brought)).to eq(laid_out(sequence))
    expect([copy, brought].map(&:state)).to eq(%w[draft draft])
    expect(copy.audience).to eq(sequence.audience)
    expect(JSON.generate(file)).not_to include(Records::Person.first.email)
    expect(Records::Letter.where(id: brought.letter_steps.map(&:letter_id) & sequence.letter_steps.map(&:letter_id)).count).to eq(0)
  end

  it "speaks by name of what it needs, and asks for nothing that every firm has" do
    tag = Records::Tag.named("press").id
    Work::KeepRule.make(sequence, {kind: "tag", settings: {tag: "press"}, live: true}, moment: at)
    spoken = Work::SequenceOut.new(sequence, at).call["speaks_of"]

    expect(spoken.fetch("tags")).to eq([{"id" => tag, "name" => "press"}])
    expect(spoken).not_to include("fields")
    expect { Work::SequenceIn.new({"format" => "something/1"}, at) }.to raise_error(Invalid, /no sequence of ours/)
  end
end
