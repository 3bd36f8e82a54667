# frozen_string_literal: true

RSpec.describe Core::Calendar do
  let(:london) { Core::Calendar::Zones.fetch("Europe/London") }
  let(:new_york) { Core::Calendar::Zones.fetch("America/New_York") }
  let(:calendar) { Core::Calendar::WorkCalendar.new(holidays: [Date.new(2026, 5, 25)]) }

  def due(base, zone: london, seed: 0, **timing)
    Core::Calendar::Timing.new(**timing).due(base, their_zone: zone, our_zone: london, calendar: calendar, seed: seed)
  end

  describe Core::Calendar::WorkCalendar do
    it "counts working days over weekends and holidays" do
      expect(calendar.after(Date.new(2026, 5, 22), 1)).to eq(Date.new(2026, 5, 26))
      expect(calendar.after(Date.new(2026, 5, 23), 0)).to eq(Date.new(2026, 5, 26))
    end

    it "says when no day is ever worked" do
      shut = described_class.new(holidays: (Date.new(2026, 1, 1)..Date.new(2026, 12, 31)))

      expect { shut.on_or_after(Date.new(2026, 3, 1)) }.to raise_error(Core::Calendar::WorkCalendar::NoWorkingDay) { |error| expect(error.data).to eq(from: Date.new(2026, 3, 1)) }
    end
  end

  describe Core::Calendar::Zones do
    it "takes an hour that is left out as the hour after" do
      expect(described_class.instant(london, Date.new(2026, 3, 29), 90)).to eq(Time.utc(2026, 3, 29, 1, 30))
    end

    it "takes an hour that happens twice the first time" do
      expect(described_class.instant(london, Date.new(2026, 10, 25), 90)).to eq(Time.utc(2026, 10, 25, 0, 30))
    end
  end

  describe "Timing#due" do
    it "waits working days and opens with the window of their clock" do
      base = Time.utc(2026, 5, 21, 9, 0)

      expect(due(base, amount: 3)).to eq(Time.utc(2026, 5, 27, 8, 0))
      expect(due(base, amount: 3, zone: new_york)).to eq(Time.utc(2026, 5, 27, 13, 0))
      expect(due(base, amount: 3, zone: new_york)).to be > due(base, amount: 3)
    end

    it "follows our clock when told so" do
      expect(Core::Calendar::Timing.new(amount: 1, zone: "ours").due(Time.utc(2026, 5, 12, 9), their_zone: new_york, our_zone: london, calendar: calendar)).to eq(Time.utc(2026, 5, 13, 8))
    end

    it "keeps the wall clock over a change to summer time" do
      expect(due(Time.utc(2026, 3, 27, 9), amount: 1)).to eq(Time.utc(2026, 3, 30, 8))
    end

    it "uses what is left of today's window, else the next working day" do
      expect(due(Time.utc(2026, 5, 12, 8, 30), seed: 5)).to be_between(Time.utc(2026, 5, 12, 8, 31), Time.utc(2026, 5, 12, 10, 30))
      expect(due(Time.utc(2026, 5, 12, 10, 25))).to eq(Time.utc(2026, 5, 13, 8))
    end

    it "counts hours to the minute when the window is open" do
      expect(due(Time.utc(2026, 5, 12, 8, 10), amount: 2, unit: "hours")).to eq(Time.utc(2026, 5, 12, 10, 10))
      expect(due(Time.utc(2026, 5, 12, 9, 0), amount: 2, unit: "hours")).to eq(Time.utc(2026, 5, 13, 8))
    end

    it "never answers before its base and always inside the window of a working day" do
      PropCheck.forall(PropCheck::Generators.tuple(PropCheck::Generators.choose(0..400_000), PropCheck::Generators.choose(0..20), PropCheck::Generators.choose(0..999_999))).with_config(n_runs: 300) do |(minutes, amount, seed)|
        base = Time.utc(2026, 1, 1) + minutes * 60
        [london, new_york].each do |zone|
          date, minute = Core::Calendar::Zones.local(zone, at = due(base, zone: zone, seed: seed, amount: amount))
          raise "#{at} is before #{base}" if at < base
          raise "#{at} is outside of the window" unless minute.between?(540, 689) && calendar.working_day?(date)
        end
      end
    end

    it "refuses a window too short to space letters in" do
      expect { Core::Calendar::Timing.new(from_minute: 540, to_minute: 545) }.to raise_error(Invalid) { |error| expect(error.at).to eq("to_minute") }
    end
  end
end
