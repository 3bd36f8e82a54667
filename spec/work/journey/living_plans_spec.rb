# frozen_string_literal: true

# Random plans live for sixty days on a real database: letters go, people react, colleagues act, workers come late. What must hold
# holds at every moment.
RSpec.describe "a plan that lives" do
  let!(:letters) { Array.new(3) { make_letter } }
  let!(:maren) { make_account }
  let!(:mailbox) { make_mailbox(account_id: maren.id) }
  let!(:people) do
    Array.new(5) do |n|
      born = Date.new(1980, 5, 12 + n) if n < 3
      make_person(standing: n.even? ? "lead" : "client", birthday: born, owner_id: maren.id)
    end
  end
  let!(:other) { start(make_sequence(people: [make_person], letters: [letters.first], mailbox: mailbox)) }
  let(:accepted) { ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")) }

  def laid_out(random)
    leave_on = [[], %w[replied], %w[replied converted]].sample(random: random)
    draft = make_sequence(people: people, letters: [], mailbox: mailbox, leave_on: leave_on)
    plans = RandomPlans.new(random, letters: letters.map(&:id), other: other.id)
    leave_if = plans.pick(nil, nil, nil, {"all" => [RandomPlans::CLIENT, RandomPlans::PRESS]})
    ends_at = plans.pick(nil, nil, (now + 30 * 86_400).iso8601)
    Work::PlanSequence.change(draft, {version: draft.version, steps: plans.whole, leave_if: leave_if, ends_at: ends_at}, moment: moment)
    start(draft.refresh)
  end

  def round(at) = worker(transport: accepted).dispatch_due(at)

  # Something of what people, colleagues and the world do.
  def happen(random, at)
    member = Records::Member.where(sequence_id: @sequence.id).all.sample(random: random)
    letter = Records::Delivery.where(member_id: member.id, state: "sent").order(Sequel.desc(:id)).first
    task = Records::Task.where(state: "open").order(:id).first
    here = moment(at, account: maren)
    case random.rand(16)
    when 0, 1 then letter && Work::Touch.call("opened", letter, at: at, by_machine: random.rand(4).zero?)
    when 2, 3 then letter && Work::Touch.call("clicked", letter, at: at, by_machine: random.rand(4).zero?, link: "https://rooms.example")
    when 4 then letter && Work::Happening.call("replied", at: at, person_id: member.person_id, delivery: letter)
    when 5 then letter && Work::Happening.call("bounced", at: at, person_id: member.person_id, delivery: letter)
    when 6 then letter && Work::Happening.call("converted", at: at, person_id: member.person_id, delivery: letter)
    when 7, 8 then task && Work::DoTask.call(task, outcome: "spoke", note: nil, version: task.version, moment: here)
    when 9 then Records::Member.where(waits_for: "nod", state: "active").all.each { |one| Work::Nod.call(one, moment: here) }
    when 10 then move(random, here, member)
    when 11 then %w[pause resume].each { |move| Work::RunSequence.call(@sequence.refresh, move, moment: here) if under_way? }
    when 12 then act({"kind" => "standing", "standing" => %w[client lead].sample(random: random)}, member, here)
    when 14 then under_way? && change_plan(random, here)
    when 13 then Work::Away.call(member.person_id, at.to_date + random.rand(8), here)
    when 15 then take_back(random, here)
    end
  end

  # Steps are put in, taken out, changed about or moved in time.
  def change_plan(random, here)
    steps = PlanInput.of(@sequence.refresh)
    fresh = RandomPlans.new(random, letters: letters.map(&:id), other: other.id)
    random.rand(1..3).times { PlanInput.change(steps, random, fresh) }
    change = Work::ChangePlan.new(@sequence.refresh, here)
    change.propose({steps: steps}, version: @sequence.proposal_version)
    expect(change.reckon.counts.values.sum).to eq(@sequence.members_dataset.active.count)
    change.effect(version: @sequence.proposal_version)
    @changed = @changed.to_i + 1
    @plan = @sequence.refresh.plan
  rescue NimbleLetter::Invalid
    nil # what cannot be meant is refused
  end

  def under_way? = %w[running paused].include?(@sequence.refresh.state)

  def act(json, member, here) =
    Work::ChangeMany.start(Work::Act.new(json, here), Records::Person.where(id: member.person_id), moment: here)

  def move(random, here, member)
    return unless under_way?

    kinds = [{"kind" => "pause"}, {"kind" => "go_on"}, {"kind" => "skip_step"}, {"kind" => "take_out"},
      {"kind" => "move_to", "step_id" => @sequence.steps.sample(random: random).id}, {"kind" => "bin"}]
    json = kinds.sample(random: random)
    set = act((json["kind"] == "bin") ? json : json.merge("sequence_id" => @sequence.id), member, here)
    return @acts << set unless random.rand(2).zero? || json["kind"] == "bin"

    Work::TakeBack.start(set, moment: here)
  end

  # Long after it was done, when the plan may be another.
  def take_back(random, here)
    set = @acts.delete(@acts.sample(random: random)) or return

    Work::TakeBack.start(Records::ChangeSet[set.id], moment: here) if under_way?
  end

  def holds!
    adds_up!
    nothing_is_stuck!
    folds!
    nobody_twice!
  end

  def adds_up!
    accounting, all = Work::Accounting.new(@sequence.refresh), @sequence.members_dataset.count
    results = Work::Results.new(@sequence)
    @sequence.steps.each do |step|
      figures = accounting.of(step)
      counts = figures.values_at("sent", "failed", "skipped", "in_doubt", "due")
      expect([counts.sum, counts.min >= 0, figures["planned"] + figures["may"]]).to eq([figures["planned"], true, all]), figures.to_s
      opened = figures.except("here").to_h { |figure, _| [figure, results.people_of(figure, step_id: step.id).count] }
      expect(opened).to eq(figures.except("here")), step.kind
    end
    # Also what went by steps that are out of the plan by now.
    sent = results.call[:total].find { |figure| figure[:name] == "sent" }.to_h.fetch(:count, 0)
    expect(sent).to eq(Records::Delivery.where(sequence_id: @sequence.id, state: "sent").count)
  end

  # Whoever is in it waits for something that will come, or that somebody can do.
  def nothing_is_stuck!
    Records::Member.active.where(sequence_id: @sequence.id).each do |member|
      letter = Records::Delivery.where(member_id: member.id, step_id: member.step_id, state: Records::Delivery::STILL_DUE)
      task = Records::Task.where(member_id: member.id, step_id: member.step_id, state: "open")
      moved = member.due_at || letter.any? || member.waits_for == "nod" || (member.waits_for == "outcome" && task.any?)
      expect(moved).to be_truthy, member.values.to_s
    end
  end

  def plans = @sequence.plans_dataset.all.to_h { |plan| [plan.number, plan.to_core] }

  def folds!
    plans = self.plans
    events = Records::Event.where(sequence_id: @sequence.id).order(:id).all.group_by(&:member_id)
    @sequence.members_dataset.each do |member|
      folded = FoldedEvents.new(plans, "to_write")
      events.fetch(member.id).each { |event| folded.take(event) }
      told = [folded.step, folded.state, folded.status]
      expect(told).to eq([member.step_id, member.state, member.status]), events[member.id].map { |event| [event.kind, event.step_id] }.to_s
    end
  end

  def nobody_twice!
    sent = Records::Event.where(kind: %w[sent step_done], sequence_id: @sequence.id).group_and_count(:member_id, :step_id)
    expect(sent.all.select { |row| row[:count] > 1 }).to eq([])
  end

  # What left is within what its mailbox sends in a day, in its hours and its pace, and what one person may have in so many days.
  def has_room!
    gone = Records::Event.where(kind: "sent").order(:occurred_at, :id).select_map(%i[occurred_at person_id])
    local = gone.map { |at, _| Core::Calendar::Zones.local(firm.zone, at) }
    expect(local.group_by(&:first).values.map(&:size).max.to_i).to be <= mailbox.daily_limit
    expect(local.map(&:last)).to all(be >= mailbox.hours_from).and(all(be < mailbox.hours_to))
    expect(gone.map(&:first).each_cons(2).map { |one, other| other - one }).to all(be >= mailbox.pace_from.to_i)
    gone.group_by(&:last).each_value do |had|
      had.map(&:first).each_cons(firm.guard.letters + 1) { |some| expect(some.last - some.first).to be >= firm.guard.days * 86_400 }
    end
  end

  # What went in a round of the worker: within its window, and to nobody who is out or paused.
  def in_its_window!(before)
    went = Records::Event.where(kind: "sent", sequence_id: @sequence.id).where { id > before }.all
    went.each do |event|
      # In the plan it was sent by: one of those before may have had another time for it.
      step = plans.values.reverse.filter_map { |plan| plan[event.step_id] }.first
      person = Records::Person[event.person_id]
      zone = (step.timing.zone == "theirs") ? moment.zone_of(person) : firm.zone
      day, minute = Core::Calendar::Zones.local(zone, event.occurred_at)
      late = Core::Sending::Room::LATE_SECONDS / 60
      expect(minute).to be_between(step.timing.from_minute, step.timing.to_minute + late)
      expect(step.timing.weekdays).to include(day.wday)
      expect(moment(event.occurred_at).calendar.working_day?(day)).to be(true) if step.timing.days == "working"
      earlier = Records::Event.where(member_id: event.member_id, kind: %w[left came_back]).where { id < event.id }.order(:id).last
      expect(earlier&.kind).not_to eq("left")
    end
  end

  def last_event = Records::Event.max(:id).to_i

  def live(seed)
    random, at = Random.new(seed), now
    pace = [[nil, nil], [120, 900]].sample(random: random)
    hours = [[0, 1440], [300, 1300]].sample(random: random)
    # By the table: what a life before changed of the record was taken back.
    Records::Mailbox.where(id: mailbox.id).update(daily_limit: random.rand(1..6), pace_from: pace.first, pace_to: pace.last,
      hours_from: hours.first, hours_to: hours.last)
    mailbox.refresh
    firm.guard.letters = random.rand(1..5)
    Records::Firm.save(guard: firm.guard.to_h)
    @sequence, @acts = laid_out(random), []
    @plan = @sequence.plan
    holds!
    36.times do
      at += random.rand(1..40) * 3600
      2.times { happen(random, at) }
      before = last_event
      round(at)
      in_its_window!(before)
      has_room!
      after = last_event
      round(at)
      # Twice is the same as once.
      expect(last_event).to eq(after)
      holds!
    end
  end

  it "adds up, loses nobody, sends nothing twice, outside its time or without room, and is told by its events" do
    seeds = Random.new(RSpec.configuration.seed)
    lives = ENV["LIFE"] ? [Integer(ENV["LIFE"])] : Array.new(Integer(ENV.fetch("LIVES", 3))) { seeds.rand(1_000_000) }
    lives.each do |seed|
      Records.db.transaction(savepoint: true, rollback: :always) { live(seed) }
    rescue RSpec::Expectations::ExpectationNotMetError, StandardError => error
      raise error, "In the life #{seed}: #{error.message}"
    end
    expect(@changed).to be_positive unless ENV["LIFE"]
  end
end
