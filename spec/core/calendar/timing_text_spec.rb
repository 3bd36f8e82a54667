# frozen_string_literal: true

RSpec.describe Core::Calendar::TimingText do
  subject(:reader) { described_class.new(fields: fields, today: Date.new(2026, 5, 12)) }

  let(:fields) { {"birthday" => "person.birthday", "room fitted on" => "custom.room_fitted_on"} }

  def read(text) = reader.read(text)

  it "reads how long after what" do
    expect(read("3 working days after step 1")).to eq(counted: "step", amount: 3, unit: "working_days")
    expect(read("two weeks later")).to eq(counted: "step", amount: 2, unit: "weeks")
    expect(read("in a month")).to eq(counted: "step", amount: 1, unit: "months")
    expect(read("20 minutes after joining")).to eq(counted: "joining", amount: 20, unit: "minutes")
    expect([read("on joining"), read("same day")]).to all(eq(counted: "step", amount: 0, unit: "days"))
  end

  it "reads days of the week and hours, alone or with the rest" do
    expect(read("3 working days after the step before, on Tue to Thu, between 9:00 and 11:30 their time")).to eq(
      counted: "step", amount: 3, unit: "working_days", weekdays: [2, 3, 4], from_minute: 540, to_minute: 690, zone: "theirs"
    )
    expect(read("Mondays and Fridays")).to eq(weekdays: [1, 5])
    expect(read("Fri to Mon")).to eq(weekdays: [0, 1, 5, 6], days: "any")
    expect(read("at 9.05 our time")).to eq(from_minute: 545, to_minute: 545, zone: "ours")
    expect(read("2 to 4pm")).to eq(from_minute: 840, to_minute: 960)
    expect(read("11 to 1pm")).to eq(from_minute: 660, to_minute: 780)
    expect(read("8–10, days off too")).to include(from_minute: 480, to_minute: 600)
  end

  it "reads a day, with the next of its name where no year is said" do
    expect(read("on 24 December 2027 at 9:00")).to eq(counted: "date", date: Date.new(2027, 12, 24), amount: 0, from_minute: 540,
      to_minute: 540)
    expect(read("24th of Dec")[:date]).to eq(Date.new(2026, 12, 24))
    expect(read("1 May")[:date]).to eq(Date.new(2027, 5, 1))
    expect(read("2026-06-01")[:date]).to eq(Date.new(2026, 6, 1))
  end

  it "reads dates of theirs, once or every year" do
    expect(read("10 days before “room fitted on”, every year")).to eq(counted: "field", field: "custom.room_fitted_on", yearly: true,
      amount: -10, unit: "days")
    expect(read("on their birthday at 9:00")).to include(counted: "field", field: "person.birthday", yearly: false, amount: 0)
  end

  it "says what it does not understand, and takes nothing of it" do
    {"three blue moons after" => /blue moons/, "" => /“”/, "on 31 Feb" => /31 feb/, "25:00" => /25/, "every year" => /every year/,
     "3 days after shoe size" => /shoe size/, "9:77" => /9:77|77/}.each do |text, wrong|
      expect { read(text) }.to raise_error(Invalid, wrong), text
    end
  end

  it "never ends in anything but a timing or an Invalid, whatever is typed" do
    random = Random.new(7)
    words = %w[3 working days before after birthday every year on at 9:00 24:00 11.30 to - Tue thursday Dec their our time – 2026 pm ,]
    outcomes = Array.new(500) do
      text = Array.new(random.rand(1..7)) { words.sample(random: random) }.join(" ")
      Core::Calendar::Timing.new(**read(text)).class
    rescue Invalid => error
      error.class
    end
    expect(outcomes.tally.values_at(Core::Calendar::Timing, Invalid)).to all(be > 20)
  end
end
