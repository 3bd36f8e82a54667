# frozen_string_literal: true

# Those who are alike go through a rehearsal together. Whatever the plan, the mailboxes and what is assumed, it must come to the second to
# what the machine says when it is asked for each of them alone.
RSpec.describe Core::Rehearsing::Together do
  # Everybody is somebody for themselves.
  let(:one_by_one) do
    Class.new(Core::Rehearsing::Rehearsal) do
      def initialize(machine, ...)
        super
        @machine = machine
      end

      private

      def ahead(one, now) = @plan.over?(one.step_id, one.heard) ? out(one, now) : alone(one, now)

      def opening_span(_one, _from) = nil
    end
  end
  let(:begin_at) { RandomJourneys::BEGIN_AT }

  # A firm's mailboxes, its guard and its people, all made of one number.
  # @yieldparam world [RandomJourneys]
  # @return [Core::Rehearsing::Rehearsal] run
  def rehearsed(kind, seed, plan)
    world, random = RandomJourneys.new(seed), Random.new(seed)
    zone = world.zone
    boxes = Array.new(2) { |n| box(n, world) }
    guard = world.pick([nil, Core::Sieve::Guard.new(1, 3), Core::Sieve::Guard.new(2, 7)])
    room = Core::Sending::Room.new(zone: zone, guard: guard)
    boxes.each { |box| room.sent(box.id, begin_at.to_date, random.rand(3)) }
    people = Array.new(30) { |n| traveller(n, world, random, boxes, plan) }
    some = Core::Rehearsing::Assumption::Rates.new(opened: 0.6, clicked: 0.4, replied: 0.2, bounced: 0.05)
    assumption = world.pick([Core::Rehearsing::Assumption.nobody, Core::Rehearsing::Assumption.everybody_opens,
      Core::Rehearsing::Assumption.new(some, seed: seed)])
    machine = Core::Journey::Machine.new(calendar: Core::Calendar::WorkCalendar.new, our_zone: zone)
    kind.new(machine, plan, room, assumption, link: ->(_step) { "a" }).run(people, begin_at)
  end

  def box(id, world)
    pace = world.pick([nil, nil, nil, [60, 240], [600, 3600]])
    hours = world.pick([[0, 1440], [0, 1440], [600, 1000]])
    Core::Sending::Room::Box.new(id: id, a_day: world.pick([2, 4, 9, 500]), pace: pace, from_minute: hours.first, to_minute: hours.last)
  end

  # Of four kinds; some are on their way already.
  def traveller(id, world, random, boxes, plan)
    zone = Core::Calendar::Zones.fetch(%w[Europe/London America/New_York Pacific/Auckland Europe/London][id % 4])
    away = begin_at.to_date + 5 if random.rand(12).zero?
    known = Core::Journey::Known.new(their_zone: zone, seed: id * 7, dates: {"person.day" => Date.new(2026, 3, 3)}, away_until: away,
      answers: {client: false, some: id.even?})
    joined = begin_at - world.pick([0, 0, 0, 3600, 86_400 * 4])
    step = world.pick([plan.steps.first, plan.steps.first, plan.steps.first, *plan.all])
    place = Core::Journey::Place.new(step_id: step.id, base: joined, joined: joined)
    Core::Rehearsing::Traveller.new(id, boxes[id % 2], place, known, random.rand(3).zero?)
  end

  def told(run)
    {letters: run.letters.map(&:to_a).sort_by { |letter| letter.map(&:to_s) },
     done: run.doings.map { |one| [one.person_id, one.step_id, one.seconds] }.sort, outs: run.outs.map(&:to_a).sort_by(&:first)}
  end

  it "comes to what is decided of each alone, whatever the plan, the room and what people do" do
    seeds = Random.new(RSpec.configuration.seed)
    lives = ENV["LIFE"] ? [Integer(ENV["LIFE"])] : Array.new(Integer(ENV.fetch("LIVES", 60))) { seeds.rand(10_000_000) }
    lives.each do |seed|
      plan = RandomJourneys.new(seed).plan
      alone, together = [one_by_one, Core::Rehearsing::Rehearsal].map { |kind| told(rehearsed(kind, seed, plan)) }
      alone.each_key do |what|
        less, more = alone[what] - together[what], together[what] - alone[what]
        expect([less, more]).to eq([[], []]), "In the life #{seed}, #{what}: #{less.first(3)} became #{more.first(3)}"
      end
      expect(together).to eq(alone)
    end
  end
end
