# frozen_string_literal: true

RSpec.describe Core::Calendar::Timing do
  let(:london) { Core::Calendar::Zones.fetch("Europe/London") }
  let(:new_york) { Core::Calendar::Zones.fetch("America/New_York") }
  let(:calendar) { Core::Calendar::WorkCalendar.new(holidays: [Date.new(2026, 5, 25)]) }

  def due(base, zone: london, seed: 0, **timing)
    described_class.new(**timing).due(base, their_zone: zone, our_zone: london, calendar: calendar, seed: seed)
  end

  describe "#due" do
    context "in working days" do
      it "goes over weekends and holidays, and opens with the window of their clock" do
        base = Time.utc(2026, 5, 21, 9, 0)

        expect(due(base, amount: 3)).to eq(Time.utc(2026, 5, 27, 8, 0))
        expect(due(base, amount: 3, zone: new_york)).to eq(Time.utc(2026, 5, 27, 13, 0))
      end

      it "follows our clock when told so" do
        expect(due(Time.utc(2026, 5, 12, 9), amount: 1, zone: new_york)).to eq(Time.utc(2026, 5, 13, 13))
        expect(
          described_class.new(amount: 1, zone: "ours").due(
            Time.utc(2026, 5, 12, 9),
            their_zone: new_york,
            our_zone: london,
            calendar: calendar
          )
        ).to eq(Time.utc(2026, 5, 13, 8))
      end

      it "keeps the wall clock over a change to summer time" do
        expect(due(Time.utc(2026, 3, 27, 9), amount: 1)).to eq(Time.utc(2026, 3, 30, 8))
      end
    end

    context "in days and weeks of seven" do
      it "counts every day, and waits where it ends on a free one" do
        expect(due(Time.utc(2026, 5, 21, 9), amount: 1, unit: "days")).to eq(Time.utc(2026, 5, 22, 8))
        expect(due(Time.utc(2026, 5, 21, 9), amount: 2, unit: "days")).to eq(Time.utc(2026, 5, 26, 8))
        expect(due(Time.utc(2026, 5, 11, 9), amount: 2, unit: "weeks")).to eq(Time.utc(2026, 5, 26, 8))
        expect(due(Time.utc(2026, 5, 12, 9), amount: 2, unit: "weeks")).to eq(Time.utc(2026, 5, 26, 8))
      end
    end

    context "in hours and minutes" do
      it "counts to the minute while the window is open" do
        expect(due(Time.utc(2026, 5, 12, 8, 10), amount: 2, unit: "hours")).to eq(Time.utc(2026, 5, 12, 10, 10))
        expect(due(Time.utc(2026, 5, 12, 8, 10), amount: 20, unit: "minutes")).to eq(Time.utc(2026, 5, 12, 8, 30))
      end

      it "waits for the next opening when it has shut" do
        expect(due(Time.utc(2026, 5, 12, 9, 0), amount: 2, unit: "hours")).to eq(Time.utc(2026, 5, 13, 8))
        expect(due(Time.utc(2026, 5, 22, 10, 0), amount: 2, unit: "hours")).to eq(Time.utc(2026, 5, 26, 8))
      end
    end

    context "on the day of joining" do
      it "uses what is left of the window" do
        expect(due(Time.utc(2026, 5, 12, 8, 30), seed: 5)).to be_between(Time.utc(2026, 5, 12, 8, 31), Time.utc(2026, 5, 12, 10, 30))
      end

      it "waits for the next working day when too little is left" do
        expect(due(Time.utc(2026, 5, 12, 10, 25))).to eq(Time.utc(2026, 5, 13, 8))
        expect(due(Time.utc(2026, 5, 22, 15, 0))).to eq(Time.utc(2026, 5, 26, 8))
      end
    end

    it "spaces letters over the window, each at its own minute whenever it is asked" do
      times = (1..40).map { |seed| due(Time.utc(2026, 5, 11, 9), amount: 1, seed: seed) }

      expect(times.uniq.size).to be > 35
      expect(times.minmax.then { |first, last| last - first }).to be > 100 * 60
      expect((1..40).map { |seed| due(Time.utc(2026, 5, 11, 9), amount: 1, seed: seed) }).to eq(times)
    end

    it "never answers before its base and always inside the window of a working day" do
      generators = PropCheck::Generators
      units = generators.one_of(*described_class::UNITS.map { |unit| generators.constant(unit) })
      PropCheck
        .forall(generators.tuple(generators.choose(0..400_000), generators.choose(0..20), generators.choose(0..999_999), units))
        .with_config(n_runs: 400) do |(minutes, amount, seed, unit)|
          base = Time.utc(2026, 1, 1) + minutes * 60
          [london, new_york].each do |zone|
            date, minute = Core::Calendar::Zones.local(zone, at = due(base, zone: zone, seed: seed, amount: amount, unit: unit))
            raise "#{at} is before #{base}" if at < base
            raise "#{at} is outside of the window" unless minute.between?(540, 689) && calendar.working_day?(date)
          end
        end
    end
  end

  describe "#next_opening" do
    subject(:timing) { described_class.new }

    it "is now while the window is open" do
      expect(timing.next_opening(Time.utc(2026, 5, 12, 9, 59), london, calendar)).to eq(Time.utc(2026, 5, 12, 9, 59))
    end

    it "is this morning before it opens, and tomorrow at the minute it shuts" do
      expect(timing.next_opening(Time.utc(2026, 5, 12, 4), london, calendar)).to eq(Time.utc(2026, 5, 12, 8))
      expect(timing.next_opening(Time.utc(2026, 5, 12, 10, 30), london, calendar)).to eq(Time.utc(2026, 5, 13, 8))
    end

    it "passes over a holiday, though its hours would fit" do
      expect(timing.next_opening(Time.utc(2026, 5, 25, 9), london, calendar)).to eq(Time.utc(2026, 5, 26, 8))
    end
  end

  describe "what it refuses" do
    {
      "amount" => [{amount: -1}, {amount: 366}, {amount: 1.5}, {amount: nil}],
      "unit" => [{unit: "fortnights"}, {unit: nil}],
      "to_minute" => [
        {from_minute: 540, to_minute: 545},
        {from_minute: 690, to_minute: 540},
        {from_minute: -1},
        {to_minute: 1441},
        {to_minute: "690"}
      ],
      "zone" => [{zone: "mine"}]
    }.each do |at, given|
      it "says that the #{at} is wrong" do
        given.each do |timing|
          expect { described_class.new(**timing) }.to raise_error(Invalid) { |error|
            expect(error).to have_attributes(code: :timing_unclear, at: at)
          }
        end
      end
    end
  end

  it "is a value: frozen, and equal to another that says the same" do
    expect(described_class.new(amount: 2)).to be_frozen.and eq(described_class.new(amount: 2))
    expect([described_class.new(amount: 2), described_class.new(amount: 2), described_class.new(amount: 3)].uniq.size).to eq(2)
  end
end
