# frozen_string_literal: true

# What a change of plan is called for one person.
RSpec.describe Core::Journey::Difference do
  include JourneyPlans

  let(:day) { Time.utc(2026, 3, 2, 9) }

  def between(before, after, **how) = described_class.between(before, after, **how)

  it "counts steps before times, and times before words" do
    two = {1 => day, 2 => day + 86_400}
    expect(between(two, {1 => day})).to eq("fewer")
    expect(between(two, {**two, 3 => day})).to eq("more")
    expect(between(two, {1 => day + 7200, 3 => day})).to eq("instead")
    expect(between(two, {1 => day, 2 => day + 2 * 86_400}, reworded: true)).to eq("later")
    expect(between(two, {1 => day - 60, 2 => day + 86_400}, reworded: true)).to eq("sooner")
    expect(between(two, {1 => day - 59, 2 => day + 86_400 + 59})).to eq("untouched")
    expect([between(two, two, reworded: true), between(two, two)]).to eq(%w[other_words untouched])
  end

  it "says of the first time that moves whether it is later or sooner" do
    expect(between({1 => day, 2 => day}, {1 => day + 3600, 2 => day - 3600})).to eq("later")
  end

  it "knows whoever stands in a lane that is gone, however deep in it" do
    inner = fork(4, lane(40, reaction("clicked"), letter(5)))
    old = plan_of(letter(1), fork(2, lane(20, reaction("opened"), letter(3), inner), lane(21, nil, letter(6))), letter(7))
    without = plan_of(letter(1), fork(2, lane(21, nil, letter(6))), letter(7))
    gone = [1, 2, 3, 4, 5, 6, 7, nil].select { |id| described_class.lane_gone?(old, without, id) }
    expect(gone).to eq([3, 4, 5])
    expect(described_class.lane_gone?(old, old, 5)).to be(false)
  end
end
