# frozen_string_literal: true

# A letter has room when its mailbox and its reader have.
RSpec.describe Core::Sending::Room do
  let(:zone) { Core::Calendar::Zones.fetch("Europe/London") }
  let(:guard) { nil }
  let(:room) { described_class.new(zone: zone, guard: guard) }
  let(:box) { described_class::Box.new(id: 1, a_day: 3, pace: nil, from_minute: 0, to_minute: 1440) }
  let(:nine) { Time.utc(2026, 5, 12, 8) } # 9:00 in York

  def slot(box, person, at) = room.slot(box, person, at).to_a

  it "is what is left of the mailbox's day, by the firm's midnight" do
    room.sent(1, Date.new(2026, 5, 12), 2)
    expect(slot(box, 7, nine)).to eq([nine, nil])
    room.take(box, 7, nine)
    expect(slot(box, 8, nine)).to eq([Time.utc(2026, 5, 12, 23), :full])
    expect(slot(box, 8, Time.utc(2026, 5, 12, 23, 30))).to eq([Time.utc(2026, 5, 12, 23, 30), nil])
  end

  it "is within its hours" do
    box.from_minute, box.to_minute = 540, 600
    expect(slot(box, 7, nine - 60)).to eq([nine, :hours])
    expect(slot(box, 7, nine + 3600)).to eq([nine + 86_400, :hours])
  end

  it "keeps an uneven pace, and as many a day as pace and hours leave" do
    box.pace, box.a_day = [120, 240], 1000
    gaps = (1..40).map do |person|
      at = room.slot(box, person, nine).at
      room.take(box, person, at)
      at
    end.each_cons(2).map { |one, other| other - one }
    expect(gaps).to all(be_between(120, 240))
    expect(gaps.uniq.size).to be > 20
    expect(box.most_a_day).to eq(480)
  end

  describe "with a guard" do
    let(:guard) { Core::Sieve::Guard.new(2, 7) }

    it "waits until the oldest of so many letters is so long ago, whatever mailbox they came from" do
      other = described_class::Box.new(id: 2, a_day: 9, pace: nil, from_minute: 0, to_minute: 1440)
      room.had(7, [nine - 6 * 86_400])
      expect(slot(box, 7, nine)).to eq([nine, nil])
      room.take(other, 7, nine)
      expect(slot(box, 7, nine + 60)).to eq([nine + 86_400, :guard])
      expect(slot(box, 8, nine + 60)).to eq([nine + 60, nil])
    end

    it "says what keeps this letter, though its mailbox's hours keep it a little longer" do
      box.from_minute, box.to_minute = 480, 1080
      room.had(7, [nine - 4 * 86_400, nine - 4 * 86_400 + 11 * 3600, nine - 3 * 86_400 + 11 * 3600])
      expect(slot(box, 7, nine)).to eq([nine + 4 * 86_400 - 3600, :guard])
      expect(slot(box, 7, nine + 12 * 3600)).to eq([nine + 4 * 86_400 - 3600, :guard])
    end
  end

  it "never lets through more than it has room for, whatever it is asked" do
    random = Random.new(RSpec.configuration.seed)
    50.times do
      guard = Core::Sieve::Guard.new(1 + random.rand(3), 1 + random.rand(5))
      room = described_class.new(zone: zone, guard: guard)
      boxes = Array.new(2) do |n|
        from = random.rand(20) * 60
        described_class::Box.new(id: n, a_day: 1 + random.rand(6), pace: [nil, [60, 60 + random.rand(600)]].sample(random: random),
          from_minute: from, to_minute: from + 120)
      end
      gone = Array.new(60) do
        box, person, from = boxes.sample(random: random), random.rand(6), nine + random.rand(20 * 86_400)
        at = room.slot(box, person, from).at
        expect(at).to be >= from
        room.take(box, person, at)
        [box, person, at]
      end
      gone.group_by { |box, _, at| [box, Core::Calendar::Zones.local(zone, at).first] }.each do |(box, _), some|
        expect(some.size).to be <= box.a_day
        minutes = some.map { |_, _, at| Core::Calendar::Zones.local(zone, at).last }
        expect(minutes).to all(be_between(box.from_minute, box.to_minute - 1))
      end
    end
  end
end
