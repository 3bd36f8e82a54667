# frozen_string_literal: true

RSpec.describe Core::Rehearsing::Assumption do
  let(:step) { Core::Journey::Steps::Letter.new(id: 5) }
  let(:ids) { (1..4000).to_a }

  def rates(**values) = described_class::Rates.new(opened: 0, clicked: 0, replied: 0, bounced: 0, **values)

  # @return [Hash{String=>Float}] of how many people each was heard
  def heard(assumption, people = ids)
    people.flat_map { |id| assumption.reactions(id, step, 1_778_572_800, "https://a.example").map(&:kind) }
      .tally.transform_values { |count| count.fdiv(people.size) }
  end

  it "comes to the rates it was given, though some read more than others" do
    keen = ids.to_h { |id| [id, id.odd? ? 1.8 : 0.2] }
    told = heard(described_class.new(rates(opened: 0.5, clicked: 0.4, replied: 0.1, bounced: 0.02, by_person: keen), seed: 3))
    expect(told["bounced"]).to be_within(0.01).of(0.02)
    expect(told["opened"]).to be_within(0.02).of(0.49)
    expect(told["clicked"]).to be_within(0.02).of(0.196)
    expect(told["replied"]).to be_within(0.02).of(0.098)
  end

  it "has keen readers open and answer more, and of those who open no more click" do
    steps = (1..400).map { |n| Core::Journey::Steps::Letter.new(id: n) }
    rated = rates(opened: 0.4, clicked: 0.5, replied: 0.2, by_person: {7 => 2.0}, by_step: steps.to_h { |one| [one.id, 1.2] })
    assumption = described_class.new(rated, seed: 1)
    other = described_class.new(rates(opened: 0.4 * 2.0 * 1.2, clicked: 0.5, replied: 0.2 * 2.0 * 1.2), seed: 1)
    kinds = ->(by) { steps.flat_map { |one| by.reactions(7, one, 1_778_572_800).map(&:kind) }.tally }
    expect(kinds.call(assumption)).to eq(kinds.call(other))
  end

  it "asks once, for all in a rehearsal, what each did before" do
    asked = []
    by_person = ->(some) { asked.push(some) && {2 => 0.0} }
    about = described_class.new(rates(opened: 1, by_person: by_person), seed: 9).about([1, 2, 3])
    expect([asked, heard(about, [1, 2, 3]), about.about([4]).equal?(about)]).to eq([[[1, 2, 3]], {"opened" => 2 / 3.0}, true])
  end
end
