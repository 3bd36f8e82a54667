# frozen_string_literal: true

# Random plans, random people and a worker that comes round when it likes, on paper.
class RandomJourneys
  include JourneyPlans

  # What became of one member: done as [step, time, due], in order.
  Story = Struct.new(:plan, :place, :done, :skipped, :ended, :known, :reason)

  BEGIN_AT = Time.utc(2026, 2, 20, 9)
  DAYS = 60
  KINDS = %w[opened clicked replied bounced unsubscribed converted task_done].freeze

  def initialize(seed)
    @random, @id = Random.new(seed), 0
  end

  def plan(depth: 2, number: 1) =
    plan_of(
      *steps(depth, 1 + @random.rand(6)),
      leave_on: pick([[], %w[replied], %w[replied converted]]),
      number: number,
      leave_if: pick([nil, nil, :client]),
      ends_at: pick([nil, nil, BEGIN_AT + @random.rand(DAYS) * 86_400])
    )

  # What most plans are: letters, and forks by what comes of them.
  def plain_plan
    steps = Array.new(2 + @random.rand(3)) { [letter(id, **days), pick([parting, parting, nil])] }
    plan_of(*steps.flatten.compact, leave_on: pick([[], %w[replied]]))
  end

  # Another plan made of this one: steps gone, put in, and in another order.
  def changed(plan)
    steps = plan.steps.reject { @random.rand(4).zero? }
    @random.rand(3).times { steps.insert(@random.rand(steps.size + 1), step(1)) }
    steps = steps.shuffle(random: @random) if @random.rand(4).zero?
    steps = steps.map { |one| one.is_a?(Steps::Fork) ? fewer_lanes(one) : one }
    plan_of(*steps, leave_on: plan.leave_on, leave_if: plan.leave_if, ends_at: plan.ends_at, number: plan.number + 1)
  end

  # @return [Array<Core::Journey::Known::Event>] of sixty days, oldest first
  def happenings(plan)
    letters = plan.all.map(&:id)
    Array.new(@random.rand(6)) { BEGIN_AT + @random.rand(DAYS * 86_400) }.sort.each_with_index.map do |at, i|
      NimbleLetter::Core::Journey::Known::Event.new(
        id: i + 1,
        kind: pick(KINDS),
        at: at,
        step_id: pick([nil, *letters]),
        link: pick([nil, "a"]),
        outcome: pick([nil, "spoke"]),
        by_machine: @random.rand(5).zero?
      )
    end
  end

  # When the worker comes round: mostly often, sometimes not for days, as when it was paused or the clock jumped.
  def rounds
    at, all = BEGIN_AT, []
    while at < BEGIN_AT + DAYS * 86_400
      all << at
      at += (@random.rand(6).zero? ? @random.rand(4 * 86_400) : @random.rand(6 * 3600)) + 1
    end
    all
  end

  def pick(some) = some[@random.rand(some.size)]

  def dates = {"person.day" => pick([nil, Date.new(2026, 3, 3), Date.new(2020, 3, 9), Date.new(2000, 2, 29)])}

  def answers = {client: @random.rand(8).zero?, some: @random.rand(2).zero?}

  def zone = NimbleLetter::Core::Calendar::Zones.fetch(pick(%w[Europe/London America/New_York Pacific/Auckland]))

  private

  def id = @id += 1

  def steps(depth, count) = Array.new(count) { step(depth) }

  def step(depth)
    case @random.rand(depth.positive? ? 9 : 6)
    when 0..3 then letter(
      id,
      **time,
      only_for: pick([nil, nil, :some]),
      look_first: @random.rand(6).zero?,
      not_after: pick([nil, nil, Steps::NotAfter.new(seconds: 86_400)])
    )
    when 4 then task(id, **time, waits: pick([true, false]))
    when 5 then Steps::Change.new(id: id, what: "tag", to: {"names" => ["press"]}, timing: timing(**time))
    else forking(depth - 1)
    end
  end

  def forking(depth)
    lanes = Array.new(@random.rand(3)) do
      test = pick(
[reaction("opened"), reaction("clicked", link: pick([nil, "a"])), reaction("replied"), reaction("bounced"),
  reaction("task_done", outcome: pick([nil, "spoke"])), Steps::Holds.new(condition: :some)]
)
      lane(id, test, *steps(depth, @random.rand(3)), comes_back: pick([true, true, false]))
    end
    lanes << lane(id, nil, *steps(depth, @random.rand(3))) if lanes.empty? || pick([true, false])
    fork(
      id,
      *lanes,
      within: pick([nil, {amount: @random.rand(6)}, {amount: 3, unit: "hours", from_minute: 0, to_minute: 1440, days: "any"}])
    )
  end

  def parting
    within = pick([{amount: 0}, {amount: 1}, {amount: 1, days: "any"}, {amount: 2}, {amount: 3}, {amount: 5, unit: "hours"}])
    lanes = pick([%w[opened], %w[opened], %w[replied], %w[replied opened], %w[bounced clicked], %w[clicked bounced]]).map do |kind|
      test = reaction(kind, step_id: pick([nil, nil, @id]))
      lane(id, test, *Array.new(@random.rand(3)) { letter(id, **days) }, comes_back: pick([true, false]))
    end
    fork(id, *lanes, *pick([[], [lane(id, nil, letter(id, **days))]]), within: within.merge(to_minute: pick([540, 700, 1080])))
  end

  def days = {amount: @random.rand(4), unit: pick(%w[days working_days]), to_minute: pick([540, 690, 1080]), zone: pick(%w[theirs ours])}

  def fewer_lanes(fork) = Steps::Fork.new(id: fork.id, within: fork.within, lanes: fork.lanes.reject { @random.rand(4).zero? })

  def time
    counted = pick(%w[step step step joining date field])
    {amount: @random.rand(5), unit: pick((counted == "field") ? %w[days weeks months] : %w[minutes hours days working_days weeks]),
     counted: counted, date: BEGIN_AT.to_date + @random.rand(80) - 10, field: "person.day", yearly: pick([true, false]),
     from_minute: 540, to_minute: pick([540, 690, 1080]), weekdays: pick([[1, 2, 3, 4, 5], [2, 4], [0, 3, 6]]),
     days: pick(%w[working any]), zone: pick(%w[theirs ours]), late: pick(%w[skip at_once]), no_date: pick(%w[skip skip leave])}
  end
end
