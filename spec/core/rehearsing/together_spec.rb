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
  # Shared by those who are alike.
  let(:places) { {} }
  let(:knowns) { {} }
  let(:journeys) { Object.new.extend(JourneyPlans) }
  attr_accessor :alike

  # A firm's mailboxes, its guard and its people, all made of one number.
  # @yieldparam world [RandomJourneys]
  # @return [Core::Rehearsing::Rehearsal] run
  def rehearsed(kind, seed, plan)
    world, random = RandomJourneys.new(seed), Random.new(seed)
    zone = world.zone
    boxes = Array.new(2) { |n| box(n, world) }
    guard = world.pick([nil, *([nil, nil] if alike), Core::Sieve::Guard.new(1, 3), Core::Sieve::Guard.new(2, 7)])
    room = Core::Sending::Room.new(zone: zone, guard: guard)
    boxes.each { |box| room.sent(box.id, begin_at.to_date, random.rand(3)) }
    people = Array.new(30) { |n| traveller(n, world, random, boxes, plan) }
    people.each { |one| room.had(one.id, [begin_at - random.rand(86_400 * 7)]) if random.rand(4).zero? }
    assumption = assumed(world, seed)
    machine = Core::Journey::Machine.new(calendar: Core::Calendar::WorkCalendar.new, our_zone: zone)
    kind.new(machine, plan, room, assumption, link: ->(_step) { "a" }).run(people, begin_at)
  end

  def assumed(world, seed)
    kind = Core::Rehearsing::Assumption
    rates = ->(**some) { kind.new(kind::Rates.new(clicked: 0, bounced: 0, **some), seed: seed) }
    all = [kind.nobody, kind.everybody_opens,
      rates.call(opened: 0.6, clicked: 0.4, replied: 0.2, bounced: 0.05)]
    world.pick(alike ? [*all, rates.call(opened: 0.8, replied: 0), rates.call(opened: 0, replied: 0.7)] : all)
  end

  def box(id, world)
    pace = world.pick([nil, nil, *([nil] if alike), [60, 240], [600, 3600]])
    hours = world.pick([[0, 1440], [0, 1440], [600, 1000]])
    a_day = world.pick(alike ? [7, 12, 500] : [2, 4, 9, 500])
    Core::Sending::Room::Box.new(id: id, a_day: a_day, pace: pace, from_minute: hours.first, to_minute: hours.last)
  end

  # Of one kind in half of the lives, which has the most in common; else of four, and some are on their way already.
  def traveller(id, world, random, boxes, plan)
    if alike
      place = place_at(plan.steps.first, begin_at)
      return Core::Rehearsing::Traveller.new(id, boxes.first, place, known_of(0, nil).like(id * 7), false)
    end

    away = begin_at.to_date + 5 if random.rand(12).zero?
    joined = begin_at - world.pick([0, 0, 0, 3600, 86_400 * 4])
    place = place_at(world.pick([plan.steps.first, plan.steps.first, plan.steps.first, *plan.all]), joined)
    Core::Rehearsing::Traveller.new(id, boxes[id / 4 % 2], place, known_of(id % 4, away).like(id * 7), random.rand(3).zero?)
  end

  def place_at(step, joined) = places[[step, joined]] ||= Core::Journey::Place.new(step_id: step.id, base: joined, joined: joined)

  def known_of(kind, away)
    zone = %w[Europe/London America/New_York Pacific/Auckland Europe/London][kind]
    knowns[[kind, away]] ||= Core::Journey::Known.new(their_zone: Core::Calendar::Zones.fetch(zone), seed: 0, away_until: away,
      dates: {"person.day" => Date.new(2026, 3, 3)}, answers: {client: false, some: kind.even?})
  end

  def told(run)
    {letters: run.letters.map { |one| [one.person_id, one.step_id, one.box_id, one.seconds, one.due, one.why] }.sort_by(&:to_s),
     done: run.doings.map { |one| [one.person_id, one.step_id, one.seconds] }.sort, outs: run.outs.map(&:to_a).sort_by(&:first)}
  end

  # Those who pass a fork were not there in the order of their numbers; others, who have the same letter then, come in between.
  it "passes a fork before anybody has a letter of the same second" do
    fork = journeys.fork(2, journeys.lane(3, journeys.reaction("opened")), within: {amount: 1})
    plan = journeys.plan_of(journeys.letter(1, to_minute: 690), fork, journeys.letter(4))
    box = Core::Sending::Room::Box.new(id: 1, a_day: 50, pace: [60, 240], from_minute: 600, to_minute: 1440)
    monday, tuesday = Time.utc(2026, 2, 23), Time.utc(2026, 2, 24)
    alone, together = [one_by_one, Core::Rehearsing::Rehearsal].map do |kind|
      people = Array.new(12) do |id|
        place = id.even? ? place_at(plan.steps.first, monday) : place_at(plan.steps.last, tuesday)
        Core::Rehearsing::Traveller.new(id, box, place, known_of(0, nil).like(id * 7), true)
      end
      machine = Core::Journey::Machine.new(calendar: Core::Calendar::WorkCalendar.new, our_zone: journeys.london)
      room = Core::Sending::Room.new(zone: journeys.london)
      told(kind.new(machine, plan, room, Core::Rehearsing::Assumption.nobody).run(people, monday))
    end
    expect(together).to eq(alone)
    expect(alone[:letters].size).to eq(18)
  end

  it "comes to what is decided of each alone, whatever the plan, the room and what people do" do
    seeds = Random.new(RSpec.configuration.seed)
    lives = ENV["LIFE"] ? [Integer(ENV["LIFE"])] : Array.new(Integer(ENV.fetch("LIVES", 20))) { seeds.rand(10_000_000) }
    lives.each do |seed|
      # How many are called at a time is to make no difference.
      stub_const("NimbleLetter::Core::Rehearsing::Addressees::FEW", [1, 3, 64][seed % 3])
      self.alike = seed.even?
      world = RandomJourneys.new(seed)
      plan = alike ? world.plain_plan : world.plan
      alone, together = [one_by_one, Core::Rehearsing::Rehearsal].map { |kind| told(rehearsed(kind, seed, plan)) }
      alone.each_key do |what|
        less, more = alone[what] - together[what], together[what] - alone[what]
        expect([less, more]).to eq([[], []]), "In the life #{seed}, #{what}: #{less.first(3)} became #{more.first(3)}"
      end
      expect(together).to eq(alone)
    end
  end
end
