# frozen_string_literal: true

RSpec.describe Core::Journey::Machine do
  let(:london) { Core::Calendar::Zones.fetch("Europe/London") }
  let(:new_york) { Core::Calendar::Zones.fetch("America/New_York") }
  let(:steps) do
    [0, 3, 5].each_with_index.map do |days, i|
      Core::Journey::Step.new(id: i + 1, letter_id: i + 1, timing: Core::Calendar::Timing.new(amount: days))
    end
  end
  let(:joined) { Time.utc(2026, 5, 12, 6) }

  def machine(leave_on: %w[replied]) =
    described_class.new(
      Core::Journey::Plan.new(steps: steps, leave_on: leave_on),
      calendar: Core::Calendar::WorkCalendar.new,
      our_zone: london
    )

  def place(passed, base = joined) = described_class::Place.new(passed, base)

  def decide(passed, base, events, now, **rest)
    machine(**rest).decide(
      place(passed, base),
      events.map { |kind, at| described_class::Event.new(kind, at) },
      now,
      their_zone: london,
      seed: 0
    )
  end

  describe "#decide" do
    it "waits for the window, then sends" do
      expect(decide(0, joined, [], joined)).to eq(Core::Journey::Decisions::WaitUntil.new(Time.utc(2026, 5, 12, 8), steps[0]))
      expect(decide(0, joined, [], Time.utc(2026, 5, 12, 8))).to eq(Core::Journey::Decisions::Send.new(steps[0], Time.utc(2026, 5, 12, 8)))
    end

    it "counts the second step from when the first went out" do
      expect(decide(1, Time.utc(2026, 5, 14, 9), [], joined).due.to_date).to eq(Date.new(2026, 5, 19))
    end

    it "finishes when every step is behind" do
      expect(decide(3, joined, [], joined)).to eq(Core::Journey::Decisions::Finish.new(joined))
    end

    it "leaves on a reply before it looks at anything else" do
      expect(decide(1, joined, [["opened", joined], ["replied", joined + 60]], Time.utc(2026, 6, 1))).to eq(
        Core::Journey::Decisions::Leave.new("replied", joined + 60)
      )
    end

    it "leaves even when every step is behind" do
      expect(decide(3, joined, [["replied", joined]], joined)).to be_a(Core::Journey::Decisions::Leave)
    end

    it "stays after what the plan does not mind" do
      expect(decide(0, joined, [["replied", joined], ["opened", joined]], joined, leave_on: [])).to be_a(
        Core::Journey::Decisions::WaitUntil
      )
    end

    Core::Journey::Plan::ALWAYS_LEAVE.each do |kind|
      it "leaves once somebody has #{kind.tr("_", " ")}, whatever the plan says" do
        expect(decide(0, joined, [[kind, joined]], joined, leave_on: [])).to eq(Core::Journey::Decisions::Leave.new(kind, joined))
      end
    end

    it "gives the same answer to the same question" do
      expect(Array.new(3) { decide(1, joined, [], joined) }.uniq.size).to eq(1)
    end
  end

  describe "#outlook" do
    it "gives each step still ahead the time at which #decide would send it" do
      ahead = machine.outlook(place(0), their_zone: london, seed: 7)
      base = joined
      told = steps.each_index.map { |i| base = machine.decide(place(i, base), [], base, their_zone: london, seed: 7).due }

      expect(ahead).to eq(steps.zip(told))
    end

    it "leaves out what is behind" do
      expect(machine.outlook(place(2), their_zone: london, seed: 0).map { |step, _| step.id }).to eq([3])
      expect(machine.outlook(place(3), their_zone: london, seed: 0)).to eq([])
    end

    it "follows the clock of whoever reads" do
      here, there = [london, new_york].map { |zone| machine.outlook(place(1), their_zone: zone, seed: 0).first.last }

      expect(there - here).to eq(5 * 3600)
    end

    it "gives each letter a minute of its own within the window" do
      minutes = machine.outlook(place(0, Time.utc(2026, 5, 8, 17)), their_zone: london, seed: 3).map { |_, at| at.hour * 60 + at.min }

      expect(minutes.uniq.size).to eq(3)
    end
  end
end

RSpec.describe Core::Journey::Plan do
  it "takes no event for a reason to leave that is none" do
    expect(described_class.new(steps: [], leave_on: %w[opened replied]).leave_on).to eq([*described_class::ALWAYS_LEAVE, "replied"])
  end

  it "cannot be changed from outside once it is made" do
    steps = []
    plan = described_class.new(steps: steps)
    steps << :another

    expect([plan.steps, plan.frozen?, plan.steps.frozen?]).to eq([[], true, true])
  end
end
