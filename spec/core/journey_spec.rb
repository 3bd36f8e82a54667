# frozen_string_literal: true

RSpec.describe Core::Journey::Machine do
  let(:london) { Core::Calendar::Zones.fetch("Europe/London") }
  let(:steps) { [0, 3].each_with_index.map { |days, i| Core::Journey::Step.new(id: i + 1, letter_id: i + 1, timing: Core::Calendar::Timing.new(amount: days)) } }
  let(:joined) { Time.utc(2026, 5, 12, 6) }

  def decide(passed, base, events, now, leave_on: %w[replied])
    machine = described_class.new(Core::Journey::Plan.new(steps: steps, leave_on: leave_on), calendar: Core::Calendar::WorkCalendar.new, our_zone: london)
    machine.decide(described_class::Place.new(passed, base), events.map { |kind, at| described_class::Event.new(kind, at) }, now, their_zone: london, seed: 0)
  end

  it "waits for the window, then sends" do
    expect(decide(0, joined, [], joined)).to eq(Core::Journey::Decisions::WaitUntil.new(Time.utc(2026, 5, 12, 8), steps[0]))
    expect(decide(0, joined, [], Time.utc(2026, 5, 12, 8))).to eq(Core::Journey::Decisions::Send.new(steps[0], Time.utc(2026, 5, 12, 8)))
  end

  it "counts the second step from when the first went out" do
    expect(decide(1, Time.utc(2026, 5, 14, 9), [], joined).due.to_date).to eq(Date.new(2026, 5, 19))
  end

  it "leaves on a reply before it looks at anything else" do
    decision = decide(1, joined, [["opened", joined], ["replied", joined + 60]], Time.utc(2026, 6, 1))

    expect(decision).to eq(Core::Journey::Decisions::Leave.new("replied", joined + 60))
  end

  it "stays after a reply when the plan says so, but never after an unsubscribe" do
    expect(decide(0, joined, [["replied", joined]], joined, leave_on: [])).to be_a(Core::Journey::Decisions::WaitUntil)
    expect(decide(0, joined, [["unsubscribed", joined]], joined, leave_on: [])).to be_a(Core::Journey::Decisions::Leave)
  end

  it "finishes when every step is behind" do
    expect(decide(2, joined, [], joined)).to eq(Core::Journey::Decisions::Finish.new(joined))
  end

  it "gives the same answer to the same question" do
    expect(Array.new(3) { decide(1, joined, [], joined) }.uniq.size).to eq(1)
  end
end

RSpec.describe Core::Statuses::Ladder do
  subject(:ladder) { described_class.new }

  it "climbs by itself and never comes down" do
    expect(ladder.after("to_write", "sent")).to eq("written")
    expect(ladder.after("answered", "opened")).to eq("answered")
    expect(ladder.after("answered", "converted")).to eq("won")
  end

  it "ends at the same place in whatever order events are told" do
    events = %w[sent opened clicked replied]
    ends = events.permutation.map { |order| order.inject(ladder.first) { |status, event| ladder.after(status, event) } }

    expect(ends.uniq).to eq(["answered"])
  end
end

RSpec.describe Core::Results::Wilson do
  # Newcombe 1998, Stat. Med. 17: 857-872, table I: 81 of 263 and 0 of 20.
  it "gives the published intervals" do
    expect(described_class.interval(81, 263).map { |share| share.round(4) }).to eq([0.2553, 0.3662])
    expect(described_class.interval(0, 20).map { |share| share.round(4) }).to eq([0.0, 0.1611])
  end

  it "says nothing of an empty base" do
    expect(described_class.interval(0, 0)).to be_nil
  end
end
