# frozen_string_literal: true

# The account adds up: its parts, read by simple means, give the time that is due.
RSpec.describe Core::Calendar::Account do
  let(:calendar) { Core::Calendar::WorkCalendar.new(holidays: [Date.new(2026, 5, 25)], closed: [shut]) }
  let(:shut) { Date.new(2026, 8, 3)..Date.new(2026, 8, 14) }
  let(:york) { Core::Calendar::Zones.fetch("Europe/London") }
  let(:random) { Random.new(RSpec.configuration.seed) }

  def pick(*some) = some.sample(random: random)

  def any_timing
    counted = pick("step", "step", "step", "joining", "date", "field")
    units = (counted == "field") ? %w[days working_days weeks months] : %w[minutes hours hours days working_days weeks months]
    from = pick(0, 480, 540, 900)
    Core::Calendar::Timing.new(counted: counted, amount: random.rand(-3..9).clamp((counted == "field") ? -3 : 0, 9), unit: pick(*units),
      date: Date.new(2026, 1, 1) + random.rand(300), field: "person.birthday", yearly: pick(true, false), from_minute: from,
      to_minute: pick(from, from + 15, from + 150, 1440).clamp(from, 1440), weekdays: pick([1, 2, 3, 4, 5], [2, 4], [0, 6], (0..6).to_a),
      days: pick("any", "any", "working"), zone: pick("theirs", "ours"), late: "at_once")
  rescue NimbleLetter::Invalid
    any_timing
  end

  def any_about
    joined = Time.utc(2026, 1, 1) + random.rand(200 * 86_400)
    zone = Core::Calendar::Zones.fetch(pick("America/New_York", "Pacific/Auckland", "Asia/Kathmandu"))
    dates = {"person.birthday" => Date.new(1980, 1, 1) + random.rand(360)}
    base = joined + random.rand(40 * 86_400)
    Core::Calendar::Timing::About.new(base, joined, dates, zone, york, calendar, random.rand(100_000))
  end

  def fits?(timing, day) = timing.weekdays.include?(day.wday) && (timing.days == "any" || calendar.working_day?(day))

  # @return [Array(Date, Integer)] the day, and the minute of it
  def local(time, zone) = zone.utc_to_local(time).then { |at| [at.to_date, at.hour * 60 + at.min] }

  def expect_to_add_up(timing, about, account)
    zone = timing.zone_in_use(about)
    (day, minute), (came, came_at) = [account.at, about.base].map { |at| local(at, zone) }
    counted, counted_at = account.reached.is_a?(Date) ? [account.reached, nil] : local(account.reached, zone)
    counted, counted_at = came, came_at if account.late
    over = [counted, counted_at].all? && first_day(timing, counted) == counted && counted_at >= shuts(timing)
    if account.hours_over?
      first = first_day(timing, counted)
      expect(over || (first == came && came_at > timing.from_minute)).to be(true)
      expect(day).to eq(first_day(timing, first + 1))
    elsif !account.late
      expect([day, over]).to eq([first_day(timing, counted), false])
    end
    expect(minute).to be_between(timing.from_minute, [timing.to_minute, timing.from_minute].max)
    expect(account.at).to eq(account.reached) if account.straight? && account.reached.is_a?(Time)
  end

  def first_day(timing, day) = fits?(timing, day) ? day : first_day(timing, day + 1)

  def shuts(timing) = [timing.to_minute, timing.from_minute + 1].max

  it "counts in parts that give the time that is due" do
    seen = Hash.new(0)
    2000.times do
      timing, about = any_timing, any_about
      due = timing.due(about) or next
      account = described_class.new(timing, due, about)
      seconds = {"minutes" => 60, "hours" => 3600}[account.unit]
      base = {"step" => about.base, "joining" => about.joined}[timing.counted]
      expect(account.from).to eq(base) if base
      if seconds
        expect(account.reached).to eq(account.from + account.amount * seconds + account.spacing_seconds)
        expect(account.spacing_seconds).to be_between(0, [account.amount * seconds / 10, 900].min)
      end
      expect_to_add_up(timing, about, account)
      seen[[seconds.nil?, account.moved, account.late]] += 1
    rescue RSpec::Expectations::ExpectationNotMetError => error
      raise error, "#{timing.to_h} #{about.to_a.values_at(0, 1, 6)} #{due.to_a}: #{error.message}"
    end
    common = [[false, nil, false], [false, :window, false], [true, nil, false], [true, :weekday, false], [true, nil, true]]
    expect(seen.keys).to include(*common)
  end
end
