# frozen_string_literal: true

RSpec.describe Core::Journey::Path do
  include JourneyPlans

  let(:joined) { Time.utc(2026, 5, 12, 6) }

  def path(plan, **about) = described_class.new(machine, plan, known(**about))

  def letters(plan, place: plan.entrance(joined), **about) = path(plan, **about).letters(place, joined).map { |step, at| [step.id, at] }

  let(:plan) { plan_of(letter(1), letter(2, amount: 3), letter(3, amount: 5)) }

  it "gives each letter still ahead the time at which the machine would send it" do
    base = joined
    told = plan.steps.map do |step|
      place = Core::Journey::Place.new(step_id: step.id, base: base, joined: joined)
      [step.id, base = machine.next(plan, place, known(seed: 7), base).until_at]
    end
    expect(letters(plan, seed: 7)).to eq(told)
  end

  it "leaves out what is behind, and ends at the end" do
    expect(letters(plan, place: Core::Journey::Place.new(step_id: 3, base: joined)).map(&:first)).to eq([3])
    expect(letters(plan, place: Core::Journey::Place.new(step_id: nil, base: joined))).to eq([])
    expect(path(plan).ahead(plan.entrance(joined), joined).last.decision).to be_a(Core::Journey::Decisions::Finish)
  end

  it "follows the clock of whoever reads" do
    here, there = %w[Europe/London America/New_York].map { |zone| letters(plan, zone: Core::Calendar::Zones.fetch(zone)).first.last }
    expect(there - here).to eq(5 * 3600)
  end

  it "gives each letter a minute of its own within the window" do
    wide = plan_of(*[1, 2, 3].map { |id| letter(id, amount: 1, to_minute: 690) })
    expect(letters(wide, seed: 3).map { |_, at| at.hour * 60 + at.min }.uniq.size).to eq(3)
  end

  it "goes the way of whoever does nothing, past the end of what is waited for" do
    waits = {amount: 2}
    back = plan_of(fork(1, lane(50, reaction("opened"), letter(10)), lane(51, nil, letter(11)), within: waits), letter(2, amount: 1))
    expect(letters(back)).to eq([[11, Time.utc(2026, 5, 14, 8)], [2, Time.utc(2026, 5, 15, 8)]])
    ends = plan_of(fork(1, lane(51, nil, letter(11), comes_back: false), within: waits), letter(2, amount: 1))
    expect(letters(ends).map(&:first)).to eq([11])
  end

  it "stops where somebody is waited for, and where everybody leaves" do
    expect(path(plan_of(letter(1, look_first: true))).ahead(plan.entrance(joined), joined).last.decision.for).to eq(:nod)
    over = plan_of(letter(1), letter(2, amount: 3), ends_at: Time.utc(2026, 5, 13))
    expect(letters(over).map(&:first)).to eq([1])
  end

  it "walks a plan of five hundred steps" do
    expect(letters(plan_of(*(1..500).map { |id| letter(id, amount: 1) })).size).to eq(500)
  end
end
