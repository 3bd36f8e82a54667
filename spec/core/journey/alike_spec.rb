# frozen_string_literal: true

# Those who are alike are decided for once: whatever the plan, it must come to what the machine says of each of them alone.
RSpec.describe Core::Journey::Alike do
  include JourneyPlans

  # A machine that counts how often it is asked.
  let(:counting) do
    Class.new(SimpleDelegator) do
      attr_reader :asked

      def soonest(...)
        @asked = @asked.to_i + 1
        super
      end
    end.new(machine)
  end
  let(:begin_at) { RandomJourneys::BEGIN_AT }

  # What is decided of somebody until nothing comes any more, letters going when they are due.
  # @param events [Array<Core::Journey::Known::Event>] which come on the way
  # @param ahead [Integer] seconds before they join at which it is asked first
  def way(decider, plan, known, events, joined, ahead = 0)
    place, now, said = plan.entrance(joined), joined - ahead, []
    60.times do
      told = known.plus(*events.select { |event| event.at <= now })
      decision, at = decider.soonest(plan, place, told, now)
      said << [decision, at]
      return said if [Core::Journey::Decisions::Leave, Core::Journey::Decisions::Finish].include?(decision.class)

      heard = events.find { |event| event.at > now }
      now = (heard && (decision.is_a?(Core::Journey::Decisions::Wait) || heard.at < at)) ? heard.at : at
      return said if decision.is_a?(Core::Journey::Decisions::Wait) && heard.nil?
      next if heard && now == heard.at

      place = plan.behind(decision, place, now)
      now = [now, decision.at].max if decision.is_a?(Core::Journey::Decisions::Take)
    end
    said
  end

  it "says what the machine says of each, whatever the plan and whatever happens to whom" do
    decided = 0
    PropCheck.forall(PropCheck::Generators.choose(0..10_000_000)).with_config(n_runs: 80) do |seed|
      random = RandomJourneys.new(seed)
      plan = random.plan
      alike = described_class.new(counting)
      kinds = Array.new(2) { {zone: random.zone, dates: random.dates.compact, answers: random.answers} }
      12.times do |n|
        one = known(seed: seed + n, nods: plan.all.map(&:id).select(&:even?), **kinds[n % 2])
        events = n.even? ? [] : random.happenings(plan).sort_by(&:at)
        # At once, minutes or hours apart, in winter and when the clocks change.
        joined = begin_at + random.pick([0, 0, 0, 60, 3600 * 7, 86_400 * 30])
        ahead = random.pick([0, 0, 3600 * 30])
        told = way(alike, plan, one, events, joined, ahead)
        raise "another answer: #{told.last}" unless told == way(machine, plan, one, events, joined, ahead)

        decided += told.size
      end
    end
    # Some of it was said of others before.
    expect(counting.asked).to be < decided * 0.97
  end

  it "walks for those who are alike as it does for each, whatever the plan" do
    PropCheck.forall(PropCheck::Generators.choose(0..10_000_000)).with_config(n_runs: 80) do |seed|
      random = RandomJourneys.new(seed)
      plan = random.plan
      ways = Core::Journey::Ways.new(described_class.new(counting), plan)
      kinds = Array.new(2) { {zone: random.zone, dates: random.dates.compact, answers: random.answers} }
      12.times do |n|
        joined = begin_at + random.pick([0, 0, 60, 3600 * 7, 86_400 * 30])
        now = joined + random.pick([0, 0, 0, 86_400 * 3])
        events = n.even? ? [] : random.happenings(plan).select { |event| event.at <= now }
        one = known(seed: seed + n, nods: plan.all.map(&:id).select(&:even?), events: events, **kinds[n % 2])
        place = random.pick([plan.entrance(joined), Core::Journey::Place.new(step_id: random.pick(plan.all).id, base: joined)])
        upto = random.pick([nil, nil, now + 86_400 * 9])
        steps = Core::Journey::Path.new(machine, plan, one).steps(place, now, upto: upto)
        raise "another way" unless ways.steps(one, place, now, upto: upto) == steps
      end
    end
  end

  it "asks the machine once of what comes later on the same day, whenever on that day somebody comes to it" do
    plan = plan_of(letter(1, amount: 1, to_minute: 690), letter(2, amount: 0, to_minute: 1080), letter(3, amount: 2, to_minute: 600))
    ways = Core::Journey::Ways.new(described_class.new(counting), plan)
    walked = Array.new(200) { |n| ways.steps(known(seed: n), plan.entrance(begin_at + n), begin_at + n) }
    expect(walked.map { |steps| steps.map { |step, at| [step.id, at.to_date - begin_at.to_date] } }.uniq)
      .to eq([[[1, 3], [2, 3], [3, 5]]])
    expect(walked.map { |steps| steps[1].last }.uniq.size).to be > 180
    # Before each step, and each at the end.
    expect(counting.asked).to be_between(203, 206)
  end

  it "asks the machine once for all who came on one day, and gives each a minute of their own" do
    plan = plan_of(letter(1, amount: 1, to_minute: 600), letter(2, amount: 3, unit: "days"))
    alike = described_class.new(counting)
    ways = Array.new(50) { |n| way(alike, plan, known(seed: n), [], begin_at + n) }
    # Once before each step, and each at the end.
    expect(counting.asked).to eq(1 + 1 + 50)
    expect(ways.map { |said| said.first.last }.uniq.size).to be > 30
  end

  it "keeps those apart of whom something else is known" do
    plan = plan_of(letter(1, amount: 1, only_for: "press"), letter(2, amount: 1, zone: "theirs"))
    alike = described_class.new(machine)
    new_york = Core::Calendar::Zones.fetch("America/New_York")
    people = [known(answers: {"press" => true}), known(answers: {"press" => false}), known(answers: {"press" => true}, zone: new_york),
      known(answers: {"press" => true}, had: [1]), known(answers: {"press" => true}, away_until: (begin_at + 9 * 86_400).to_date)]
    people.each { |one| expect(way(alike, plan, one, [], begin_at)).to eq(way(machine, plan, one, [], begin_at)) }
  end

  it "hears what the step before them heeds, and lets wait what it does not" do
    opened = Core::Journey::Known::Event.new(id: 1, kind: "opened", at: begin_at, step_id: 1)
    plan = plan_of(letter(1), fork(2, lane(1, reaction("opened"), letter(3)), within: {amount: 2}), letter(4))
    expect([1, 2, 3, 4].map { |id| plan.heeds?(id, "opened") }).to eq([false, true, false, false])
    expect([1, 2, 3, 4].map { |id| plan.heeds?(id, "unsubscribed") }).to all(be(true))
    alike = described_class.new(machine)
    ways = [[], [opened]].map { |events| way(alike, plan, known, events, begin_at).map(&:first) }
    lanes = ways.map { |said| said.grep(Core::Journey::Decisions::Take).map { |take| take.lane&.id } }
    expect(lanes).to eq([[nil], [1]])
  end
end
