# frozen_string_literal: true

# When a mailbox sends, and what of a window lies in it.
RSpec.describe Core::Calendar::Hours do
  let(:london) { Core::Calendar::Zones.fetch("Europe/London") }
  let(:hours) { described_class.new(london, 480, 1080) }
  let(:calendar) { Core::Calendar::WorkCalendar.new(holidays: [Date.new(2026, 5, 25)]) }

  def at(day, hour, minute = 0) = Time.utc(2026, 5, day, hour - 1, minute) # London's summer

  it "are open from their first minute up to their last" do
    expect([at(12, 7, 59), at(12, 8), at(12, 17, 59), at(12, 18)].map { |instant| hours.open?(instant) }).to eq([false, true, true, false])
  end

  it "have the longest stretch of a window, or none" do
    expect(hours.stretch(at(12, 9), at(12, 20))).to eq([at(12, 9), at(12, 18)])
    expect(hours.stretch(at(12, 17, 50), at(13, 9))).to eq([at(13, 8), at(13, 9)])
    expect(hours.stretch(at(12, 18), at(13, 8))).to be_nil
  end

  it "cover what lies in them from end to end, unless clocks change meanwhile" do
    cover = ->(from, to) { hours.cover?(from.to_i, to.to_i) }
    expect([cover.call(at(12, 8), at(12, 17, 59)), cover.call(at(12, 7, 59), at(12, 9)), cover.call(at(12, 9), at(12, 18))])
      .to eq([true, false, false])
    expect(cover.call(at(12, 9), at(13, 9))).to be(false)
    night = described_class.new(london, 0, 300)
    clocks = Time.utc(2026, 10, 25)
    expect([night.cover?(clocks.to_i, clocks.to_i + 7200), night.cover?(clocks.to_i + 86_400, clocks.to_i + 93_600)]).to eq([false, true])
  end

  it "are open from an instant on until they shut; when the clocks change meanwhile, nobody can tell" do
    until_when = ->(at) { Time.at(hours.open_until(at.to_i)).utc }
    expect([at(12, 8), at(12, 9, 30) + 17, at(12, 17, 59)].map(&until_when)).to eq([at(12, 18)] * 3)
    night, clocks = described_class.new(london, 0, 300), Time.utc(2026, 10, 25).to_i
    expect([night.open_until(clocks), night.open_until(clocks + 86_400)]).to eq([clocks, clocks + 86_400 + 5 * 3600])
  end

  # @return [Boolean] whether some of that day's window lies in the hours
  def meets_on?(timing, hours, zone, day)
    window = [timing.from_minute, [timing.to_minute, timing.from_minute + 1].max]
    !hours.stretch(*window.map { |minute| Core::Calendar::Zones.instant(zone, day, minute) }).nil?
  end

  it "meet a window by a clock that is at most half a day away, or never" do
    morning, zone = Core::Calendar::Timing.new, ->(name) { Core::Calendar::Zones.fetch(name) }
    zones = %w[Europe/London America/New_York Pacific/Auckland].map(&zone)
    met = zones.map { |one| morning.ever_meets?(hours, one, Date.new(2026, 5, 12)) }
    expect(met).to eq([true, true, false])
    # Auckland's clocks go the other way: it is met in London's winter only.
    evening, sharp = described_class.new(london, 1190, 1230), Core::Calendar::Timing.new(from_minute: 540, to_minute: 540)
    auckland, may = zone.call("Pacific/Auckland"), Date.new(2026, 5, 12)
    expect([meets_on?(sharp, evening, auckland, may), sharp.ever_meets?(evening, auckland, may)]).to eq([false, true])
  end

  it "let go who is late for exactly one minute when they open again in time, and on the next day that fits otherwise" do
    timing = Core::Calendar::Timing.new(from_minute: 540, to_minute: 540)
    due = lambda do |*hours|
      about = Core::Calendar::Timing::About.new(at(12, 9), at(12, 9), {}, london, london, calendar, 7)
      timing.reopening(at(12, 9, 30), about, described_class.new(london, *hours)).at
    end
    expect([due.call(480, 1080), due.call(600, 1080), due.call(480, 560)]).to eq([at(12, 9, 30), at(12, 10), at(13, 9)])
  end

  # A letter whose own minute within its window is one at which its mailbox sends nothing would wait for ever.
  it "always meet, where they can, the opening for which somebody waits" do
    random = Random.new(RSpec.configuration.seed)
    zones = %w[Europe/London America/New_York Pacific/Auckland Asia/Kolkata].map { |name| Core::Calendar::Zones.fetch(name) }
    met = 0
    400.times do
      zone, seed = zones.sample(random: random), random.rand(1_000_000)
      from = random.rand(0..1380)
      timing = Core::Calendar::Timing.new(from_minute: from, to_minute: [from, random.rand((from + 15)..1440)].sample(random: random),
        weekdays: [1 + random.rand(5), *(0..6).to_a.sample(random.rand(3), random: random)], days: %w[working any].sample(random: random))
      opens = random.rand(0..1300)
      hours = described_class.new(london, opens, random.rand((opens + 1)..1440))
      instant = Time.utc(2026, 1, 1) + random.rand(365 * 86_400)
      about = Core::Calendar::Timing::About.new(instant, instant, {}, zone, london, calendar, seed)
      due = timing.reopening(instant, about, hours).at
      span = timing.reopening_span(instant, about, hours)
      expect(span.seconds(seed)).to eq(due.to_i) if span
      expect(due).to be >= instant
      day = Core::Calendar::Zones.local(zone, due).first
      # Not in the weeks alone in which the clocks of one have changed and those of the other have not.
      next unless [day, day + 7, day + 14].all? { |one| meets_on?(timing, hours, zone, one) }

      met += 1
      expect(hours.open?(due)).to be(true), [timing.to_h, zone.identifier, opens, instant, due].inspect
      minute = Core::Calendar::Zones.local(zone, due).last
      late = (timing.from_minute == timing.to_minute) ? Core::Calendar::Timing::MINUTES_LATE : 0
      expect(minute).to be_between(timing.from_minute, [timing.to_minute, timing.from_minute + 1].max + late)
    end
    expect(met).to be > 100
  end
end
