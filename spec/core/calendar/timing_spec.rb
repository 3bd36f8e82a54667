# frozen_string_literal: true

RSpec.describe Core::Calendar::Timing do
  let(:london) { Core::Calendar::Zones.fetch("Europe/London") }
  let(:new_york) { Core::Calendar::Zones.fetch("America/New_York") }
  let(:calendar) { Core::Calendar::WorkCalendar.new(holidays: [Date.new(2026, 5, 25)]) }

  def about(base, zone: london, seed: 0, joined: base, dates: {}) =
    described_class::About.new(base, joined, dates, zone, london, calendar, seed)

  def whole(base, zone: london, seed: 0, joined: base, dates: {}, **timing) =
    described_class.new(**timing).due(about(base, zone: zone, seed: seed, joined: joined, dates: dates))

  def due(...) = whole(...)&.at

  describe "#due" do
    context "in working days" do
      it "goes over weekends and holidays, and opens with the window of their clock" do
        base = Time.utc(2026, 5, 21, 9, 0)

        expect(due(base, amount: 3)).to eq(Time.utc(2026, 5, 27, 8, 0))
        expect(due(base, amount: 3, zone: new_york)).to eq(Time.utc(2026, 5, 27, 13, 0))
      end

      it "follows our clock when told so" do
        expect(due(Time.utc(2026, 5, 12, 9), amount: 1, zone: new_york)).to eq(Time.utc(2026, 5, 13, 13))
        ours = described_class.new(amount: 1, zone: "ours").due(about(Time.utc(2026, 5, 12, 9), zone: new_york))
        expect(ours.at).to eq(Time.utc(2026, 5, 13, 8))
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

    context "in months" do
      it "is the last of a shorter month" do
        expect(due(Time.utc(2026, 1, 31, 9), amount: 1, unit: "months", days: "any")).to eq(Time.utc(2026, 2, 28, 9))
        expect(due(Time.utc(2028, 1, 31, 9), amount: 1, unit: "months", days: "any")).to eq(Time.utc(2028, 2, 29, 9))
        expect(due(Time.utc(2026, 1, 31, 9), amount: 13, unit: "months")).to eq(Time.utc(2027, 3, 1, 9))
      end
    end

    context "after joining" do
      it "counts from there, and is late when that is past" do
        base = Time.utc(2026, 5, 20, 9)
        expect(whole(base, joined: Time.utc(2026, 5, 18, 9), counted: "joining", amount: 4)).to have_attributes(
          at: Time.utc(2026, 5, 22, 8),
          late: false
        )
        expect(whole(base, joined: Time.utc(2026, 5, 11, 9), counted: "joining", amount: 4)).to have_attributes(at: base, late: true)
      end
    end

    context "on a date" do
      it "is then, at the window of the day, whenever somebody comes" do
        on = {counted: "date", date: Date.new(2026, 6, 3), from_minute: 600, to_minute: 600}
        expect(whole(Time.utc(2026, 5, 12), **on)).to have_attributes(at: Time.utc(2026, 6, 3, 9), moved: nil, late: false)
        expect(whole(Time.utc(2026, 6, 3, 9, 1), **on)).to have_attributes(late: true)
        expect(due(Time.utc(2026, 6, 4, 12), **on)).to eq(Time.utc(2026, 6, 5, 9))
      end

      it "moves to a day that fits, and says why" do
        expect(whole(Time.utc(2026, 5, 12), counted: "date", date: Date.new(2026, 5, 25))).to have_attributes(
          at: Time.utc(2026, 5, 26, 8),
          moved: :day_off
        )
        expect(whole(Time.utc(2026, 5, 12), counted: "date", date: Date.new(2026, 6, 3), weekdays: [1, 2])).to have_attributes(
          at: Time.utc(2026, 6, 8, 8),
          moved: :weekday
        )
      end
    end

    context "around a date of theirs" do
      let(:yearly) { {counted: "field", field: "person.fitted_on", amount: -10, unit: "days", yearly: true, days: "any"} }

      def around(base, day, **timing) = due(base, dates: {"person.fitted_on" => day}, **yearly, **timing)

      it "comes round every year, from the year after it" do
        expect(around(Time.utc(2026, 1, 5), Date.new(2026, 6, 3))).to eq(Time.utc(2027, 5, 24, 8))
        expect(around(Time.utc(2027, 5, 24, 12), Date.new(2026, 6, 3))).to eq(Time.utc(2028, 5, 24, 8))
        expect(around(Time.utc(2026, 12, 28), Date.new(2020, 1, 4))).to eq(Time.utc(2027, 12, 25, 9))
        expect(around(Time.utc(2026, 12, 28), Date.new(2020, 1, 4), amount: 10)).to eq(Time.utc(2027, 1, 14, 9))
      end

      it "takes the 28th for the 29th of February in other years" do
        expect(around(Time.utc(2026, 1, 5), Date.new(2000, 2, 29), amount: 0)).to eq(Time.utc(2026, 2, 28, 9))
        expect(around(Time.utc(2028, 1, 5), Date.new(2000, 2, 29), amount: 0)).to eq(Time.utc(2028, 2, 29, 9))
      end

      it "is once when it is not yearly, late when it is past, and nothing without the date" do
        once = {yearly: false, amount: 2, unit: "working_days"}
        expect(around(Time.utc(2026, 5, 12), Date.new(2026, 5, 22), **once)).to eq(Time.utc(2026, 5, 27, 8))
        expect(around(Time.utc(2026, 5, 12), Date.new(2026, 5, 26), **once, amount: -2)).to eq(Time.utc(2026, 5, 21, 8))
        dates = {"person.fitted_on" => Date.new(2026, 5, 22)}
        expect(whole(Time.utc(2026, 6, 12, 8), dates: dates, **yearly, **once)).to have_attributes(late: true)
        expect(around(Time.utc(2026, 5, 12), nil)).to be_nil
      end
    end

    context "when the clocks change" do
      it "takes an hour that is left out as the hour after" do
        skipped = {counted: "date", date: Date.new(2026, 3, 29), from_minute: 90, to_minute: 90, days: "any"}
        expect(due(Time.utc(2026, 3, 1), **skipped)).to eq(Time.utc(2026, 3, 29, 1, 30)) # 2:30 by their clock
      end

      it "takes an hour that comes twice the first time" do
        twice = {counted: "date", date: Date.new(2026, 10, 25), from_minute: 90, to_minute: 90, days: "any"}
        expect(due(Time.utc(2026, 10, 1), **twice)).to eq(Time.utc(2026, 10, 25, 0, 30))
      end

      it "counts hours as they pass, and days by the wall clock" do
        before = Time.utc(2026, 3, 28, 20)
        expect(due(before, amount: 24, unit: "hours", days: "any", from_minute: 0, to_minute: 1440)).to eq(before + 86_400)
        expect(due(before, amount: 1, unit: "days", days: "any", from_minute: 1200, to_minute: 1200)).to eq(Time.utc(2026, 3, 29, 19))
      end
    end

    it "goes on any day when told so, and on the chosen days of the week" do
      expect(due(Time.utc(2026, 5, 22, 9), amount: 1, unit: "days", days: "any")).to eq(Time.utc(2026, 5, 23, 8))
      expect(due(Time.utc(2026, 5, 22, 9), amount: 1, unit: "days", weekdays: [0], days: "any")).to eq(Time.utc(2026, 5, 24, 8))
    end

    it "spreads what is counted in hours too, a little behind the hour" do
      base = Time.utc(2026, 5, 12, 8, 10)
      times = (1..40).map { |seed| due(base, amount: 1, unit: "hours", seed: seed) - base }
      expect(times.uniq.size).to be > 35
      expect(times.minmax).to match([be >= 3600, be < 3960])
      shut = (1..40).map { |seed| due(Time.utc(2026, 5, 12, 20), amount: 1, unit: "hours", seed: seed) }
      expect(shut.minmax.then { |first, last| last - first }).to be > 100 * 60
    end

    it "spaces letters over the window, each at its own minute whenever it is asked" do
      times = (1..40).map { |seed| due(Time.utc(2026, 5, 11, 9), amount: 1, seed: seed) }

      expect(times.uniq.size).to be > 35
      expect(times.minmax.then { |first, last| last - first }).to be > 100 * 60
      expect((1..40).map { |seed| due(Time.utc(2026, 5, 11, 9), amount: 1, seed: seed) }).to eq(times)
    end

    it "never answers before its base and always inside the window of a day that fits" do
      g = PropCheck::Generators
      pick = ->(some) { g.one_of(*some.map { |one| g.constant(one) }) }
      parts = g.tuple(
        g.choose(0..400_000),
        g.choose(0..20),
        g.choose(0..999_999),
        pick.call(described_class::UNITS),
        pick.call(described_class::COUNTED),
        pick.call([[1, 2, 3, 4, 5], [2, 4], [0, 1, 6]]),
        pick.call(%w[working any]),
        g.choose(0..2000)
      )
      PropCheck.forall(parts).with_config(n_runs: 500) do |(minutes, amount, seed, unit, counted, weekdays, days, ago)|
        base = Time.utc(2026, 1, 1) + minutes * 60
        unit = "days" if counted == "field" && described_class::SECONDS.key?(unit)
        day = base.to_date - ago + 700
        timing = {amount: amount, unit: unit, counted: counted, weekdays: weekdays, days: days, date: day, field: "person.day",
                  yearly: ago.odd?}
        [london, new_york].each do |zone|
          at = due(base, zone: zone, seed: seed, joined: base - ago * 60, dates: {"person.day" => day}, **timing)
          date, minute = Core::Calendar::Zones.local(zone, at)
          raise "#{at} is before #{base}" if at < base
          raise "#{at} is outside of the window" unless minute.between?(540, 689) && weekdays.include?(date.wday)
          raise "#{at} is no working day" if days == "working" && !calendar.working_day?(date)
        end
      end
    end
  end

  describe "#next_opening" do
    def opening(instant) = described_class.new.next_opening(instant, about(instant)).to_a.values_at(0, 2)

    it "is now while the window is open" do
      expect(opening(Time.utc(2026, 5, 12, 9, 59))).to eq([Time.utc(2026, 5, 12, 9, 59), nil])
    end

    it "is this morning before it opens, and tomorrow at the minute it shuts" do
      expect(opening(Time.utc(2026, 5, 12, 4))).to eq([Time.utc(2026, 5, 12, 8), :window])
      expect(opening(Time.utc(2026, 5, 12, 10, 30))).to eq([Time.utc(2026, 5, 13, 8), :window])
    end

    it "passes over a holiday, though its hours would fit" do
      expect(opening(Time.utc(2026, 5, 25, 9))).to eq([Time.utc(2026, 5, 26, 8), :day_off])
    end
  end

  describe "#reopening" do
    def again(instant, **timing) = described_class.new(**timing).reopening(instant, about(instant)).at

    it "lets what was meant for exactly nine go a while later, and waits for another day after that" do
      sharp = {from_minute: 540, to_minute: 540}
      expect(again(Time.utc(2026, 5, 12, 9, 59), **sharp)).to eq(Time.utc(2026, 5, 12, 9, 59))
      expect(again(Time.utc(2026, 5, 12, 10, 1), **sharp)).to eq(Time.utc(2026, 5, 13, 8))
      expect(again(Time.utc(2026, 5, 12, 7), **sharp)).to eq(Time.utc(2026, 5, 12, 8))
      expect(again(Time.utc(2026, 5, 25, 8, 30), **sharp)).to eq(Time.utc(2026, 5, 26, 8))
    end

    it "is the next opening of a window" do
      expect(again(Time.utc(2026, 5, 12, 10, 30))).to eq(Time.utc(2026, 5, 13, 8))
    end
  end

  describe "what it refuses" do
    {
      "amount" => [{amount: -1}, {amount: 1_000_000, unit: "days"}, {amount: 121, unit: "months"}, {amount: 1.5}, {amount: nil}],
      "unit" => [{unit: "fortnights"}, {unit: nil}, {counted: "field", field: "person.birthday", unit: "hours"}],
      "to_minute" => [
        {from_minute: 540, to_minute: 545},
        {from_minute: 690, to_minute: 540},
        {from_minute: -1},
        {to_minute: 1441},
        {to_minute: "690"}
      ],
      "zone" => [{zone: "mine"}],
      "weekdays" => [{weekdays: []}, {weekdays: [7]}, {weekdays: [0, 6]}],
      "counted" => [{counted: "moon"}],
      "days" => [{days: "odd"}],
      "date" => [{counted: "date"}],
      "field" => [{counted: "field"}, {counted: "field", field: ""}],
      "late" => [{late: "never"}],
      "no_date" => [{no_date: "wait"}],
      "yearly" => [{yearly: nil}],
      "phase" => [{phase: 1}]
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
