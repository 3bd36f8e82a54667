# frozen_string_literal: true

# What is rehearsed is what then happens, to the minute, when several workers and senders share the mailboxes and the page is used.
# `PEOPLE=200` for each plan is the large form (bench/README.md).
RSpec.describe "what was rehearsed", :processes do
  let(:people) { Integer(ENV.fetch("PEOPLE", 6)) }
  let(:at) { Work::Moment.new(now: now) }

  before do
    Records::Firm.save(name: "Tern & Fallow Acoustics", postal_address: "4 Felt Yard, York", time_zone: "Europe/London",
      holidays_of: "gb_eng", guard: {letters: 2, days: 5})
    @letters = Array.new(3) { |n| make_letter(name: "Letter #{n}") }
  end

  def letter(n, **timing) = {"kind" => "letter", "letter_id" => @letters[n].id, "days" => "working", **timing.transform_keys(&:to_s)}

  def fork(days, *lanes) = {"kind" => "fork", "within" => {"amount" => days, "unit" => "working_days"}, "lanes" => lanes}

  def lane(test, *steps) = {"test" => test, "steps" => steps}

  def opened = {"kind" => "opened"}

  def in_york = {"condition" => {"field" => "person.city", "is" => "one_of", "value" => ["York"]}}

  # Two forks, and hours in which the next letters of some meet first letters of others.
  def steps(late)
    window = {"from_minute" => 540 + late, "to_minute" => 690 + late}
    [letter(0, amount: 0, unit: "days", **window.transform_keys(&:to_sym)),
      fork(1, lane(opened, letter(1, amount: 1, unit: "days")), lane(nil, letter(1, amount: 0, from_minute: 540, to_minute: 720))),
      fork(1, lane(in_york, letter(2, amount: 2, unit: "hours", from_minute: 480, to_minute: 1080)), lane(nil)),
      letter(0, amount: 1, unit: "working_days", from_minute: 600, to_minute: 840)]
  end

  def plan(name, late, **box)
    mailbox = make_mailbox(**box)
    ids = Array.new(people) do |n|
      make_person(city: n.even? ? "York" : "Hull", time_zone: (n % 3).zero? ? "America/New_York" : "Europe/London")
    end
    draft = make_sequence(people: ids, letters: [], mailbox: mailbox, name: name)
    Work::PlanSequence.change(draft, {version: draft.version, steps: steps(late)}, moment: at)
    draft.refresh
  end

  def plans
    part = people / 3
    [plan("Full days", 0, daily_limit: part),
      plan("Paced", 30, daily_limit: people, pace_from: 60, pace_to: 240, hours_from: 570, hours_to: 1020),
      plan("Paced, few hours", 60, daily_limit: part + 2, pace_from: 200, pace_to: 500, hours_from: 660, hours_to: 1020)]
  end

  def rehearsed(sequence)
    assumption = Core::Rehearsing::Assumption.nobody
    Work::Rehearse.new(sequence, at, assumption: assumption).run.letters.map { |one| [one.person_id, one.step_id, one.at.to_i / 60] }
  end

  def went(sequence)
    Records::Event.where(kind: "sent", sequence_id: sequence.id).select_map(%i[person_id step_id occurred_at])
      .map { |person, step, time| [person, step, time.to_i / 60] }
  end

  def live(days, account)
    days.times do |n|
      clock.advance_to(clock.now + 2 * 86_400 - (n % 3) * 7_000)
      look_at_pages(account)
      wait_until("the clock has come to its day", seconds: 3600) { clock.target.nil? }
      break if Records::Member.active.empty?
    end
  end

  # Somebody looks at the pages meanwhile.
  def look_at_pages(account)
    moment = Work::Moment.new(now: clock.now, account: account)
    Work::PostAhead.new(moment).call
    Records::Sequence.all.each { |sequence| Work::Results.new(sequence).call }
  end

  it "goes to the minute" do
    account = make_account
    sequences = plans
    told = sequences.to_h { |sequence| [sequence.id, rehearsed(sequence)] }
    sequences.each { |sequence| start(sequence) }
    with_world("post-office", "web", "worker") do |children|
      %w[worker sender sender].each_with_index { |part, n| children.start(part, as: "#{part} #{n + 2}") }
      live(40, account)
    end
    expect(Records::Member.active.count).to eq(0)
    sequences.each do |sequence|
      more, less = told[sequence.id] - went(sequence), went(sequence) - told[sequence.id]
      late = less.filter_map { |one| (other = more.find { |told| told.first(2) == one.first(2) }) && one.last - other.last }
      words = "#{sequence.name}: #{more.size} of #{told[sequence.id].size} at another minute, by #{late.minmax} minutes"
      puts words if ENV["PEOPLE"]
      expect([more.size, less.size]).to eq([0, 0]), words
    end
  end
end
