# frozen_string_literal: true

# Who asks for a great many letters of one stretch is told the same as who asks the whole room for each.
RSpec.describe Core::Sending::Stretch do
  let(:random) { Random.new(RSpec.configuration.seed) }
  let(:monday) { Time.utc(2026, 3, 23).to_i }

  def pick(some) = some[random.rand(some.size)]

  def room(zone, guard, had)
    room = Core::Sending::Room.new(zone: zone, guard: guard)
    had.each { |person_id, times| room.had(person_id, times) }
    room
  end

  def some_box
    from, to = pick([[0, 1440], [0, 1440], [540, 1080], [60, 90]])
    Core::Sending::Room::Box.new(id: 1, a_day: pick([1, 5, 500]), pace: pick([nil, nil, [60, 240]]), from_minute: from, to_minute: to)
  end

  it "grants what the room grants, at any hour, before and after clocks change" do
    zone = Core::Calendar::Zones.fetch("Europe/London")
    plain = 0
    600.times do
      box, guard = some_box, pick([nil, Core::Sieve::Guard.new(1, 2), Core::Sieve::Guard.new(2, 7)])
      had = (1..4).to_h { |id| [id, Array.new(random.rand(3)) { Time.at(monday - random.rand(9 * 86_400)) }] }
      opens = monday + random.rand(7 * 86_400)
      shuts = opens + random.rand(12 * 3600)
      whole, part = Array.new(2) { room(zone, guard, had) }
      stretch = part.between(box, opens, shuts)
      plain += 1 if stretch.is_a?(Core::Sending::Plainly)
      times = Array.new(12) { opens + random.rand(shuts - opens + 1) }
      times.sort! unless random.rand(4).zero?
      asked = times.map { |at| [random.rand(1..4), at] }
      answers = asked.map { |id, at| [stretch.guarded?(part.lately(id), at), stretch.grant(id, part.lately(id), at)] }
      expect(answers.map(&:last)).to eq(asked.map { |id, at| whole.grant(box, id, at) })
      expect(answers).to all(satisfy { |may_keep, kept| may_keep || kept != :guard })
      expect(asked.map { |id, at| part.keeps(box, id, at) }).to eq(asked.map { |id, at| whole.keeps(box, id, at) })
    end
    expect(plain).to be_between(100, 500)
  end

  it "knows what is left of its day, and whether there is only one" do
    room = room(Core::Calendar::Zones.fetch("Europe/London"), nil, {})
    box = Core::Sending::Room::Box.new(id: 1, a_day: 2, pace: nil, from_minute: 0, to_minute: 1440)
    stretch = room.between(box, monday + 36_000, monday + 40_000)
    expect(stretch.left).to eq(2)
    3.times { |id| stretch.grant(id, nil, monday + 36_000) }
    expect(stretch.left).to eq(0)
    expect([stretch, room.between(box, monday - 60, monday + 60)].map(&:one_day?)).to eq([true, false])
  end
end
