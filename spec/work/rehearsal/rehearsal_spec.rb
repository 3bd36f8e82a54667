# frozen_string_literal: true

# What is rehearsed is what then happens, to the minute, when people do what was assumed of them.
RSpec.describe "a rehearsal" do
  let!(:letters) { Array.new(3) { make_letter } }
  let!(:maren) { make_account }
  let!(:people) do
    Array.new(6) do |n|
      born = Date.new(1980, 5, 12 + n * 9) if n < 3
      make_person(standing: n.even? ? "lead" : "client", birthday: born, owner_id: maren.id,
        time_zone: ["Europe/London", "America/New_York"][n % 2])
    end
  end
  # It goes on, so that people can be handed over to it.
  let!(:other) do
    start(make_sequence(people: [make_person], letters: [letters.first])).tap do |sequence|
      Work::KeepRule.make(sequence, {kind: "form", live: true}, moment: moment)
    end
  end
  let(:accepted) { ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")) }
  let(:all) { worker(transport: accepted) }
  let(:nobody) { Core::Rehearsing::Assumption.nobody }

  def draft_of(steps, box, **more)
    draft = make_sequence(people: people, letters: [], mailbox: box)
    Work::PlanSequence.change(draft, {version: draft.version, steps: steps, **more}, moment: moment)
    draft.refresh
  end

  def rehearsed(sequence, assumption = nobody) = Work::Rehearse.new(sequence, moment, assumption: assumption).run

  # What is due comes, and colleagues look at once and are done on the day.
  # @param opens [Boolean] whether everybody opens each letter, two hours later
  def run_to_the_end(sequence, opens: false)
    at = now
    while at
      here = moment(at, account: maren)
      open_by(at) if opens
      all.dispatch_due(at)
      until (waiting = Records::Member.where(waits_for: "nod", state: "active").all).empty?
        waiting.each { |one| Work::Nod.call(one, moment: here) }
        all.dispatch_due(at)
      end
      done_by(at).each { |task| Work::DoTask.call(task, outcome: nil, note: nil, version: task.version, moment: here) }
      others = tasks.map { |task| five(task) } + (opens ? unopened.map { |letter| opened_at(letter) } : [])
      at = [all.next_due(after: at), others.select { |time| time > at }.min].compact.min
      at = nil unless sequence.members_dataset.active.any?
    end
  end

  def unopened
    opened = Records::Event.where(kind: "opened").select(:delivery_id)
    Records::Delivery.where(state: "sent").exclude(id: opened).all
  end

  def open_by(at)
    unopened.select { |letter| opened_at(letter) <= at }
      .each { |letter| Work::Touch.call("opened", letter, at: opened_at(letter), by_machine: false) }
  end

  def opened_at(letter) = letter.sent_at + Core::Rehearsing::Assumption::SOON

  def tasks = Records::Task.where(state: "open").all

  def five(task) = Core::Calendar::Zones.instant(firm.zone, task.due_on, Work::Rehearse::DONE_BY_MINUTE)

  def done_by(at) = tasks.select { |task| five(task) <= at }

  def went(sequence)
    sent = Records::Event.where(kind: "sent", sequence_id: sequence.id).select_map(%i[person_id step_id occurred_at])
    sent.map { |person, step, at| [person, step, at.to_i / 60] }
  end

  def told(rehearsal) = rehearsal.letters.map { |letter| [letter.person_id, letter.step_id, letter.at.to_i / 60] }

  it "tells what then happens, whatever the plan and however full its mailbox" do
    seeds = Random.new(RSpec.configuration.seed)
    lives = ENV["LIFE"] ? [Integer(ENV["LIFE"])] : Array.new(Integer(ENV.fetch("LIVES", 6))) { seeds.rand(1_000_000) }
    compared = 0
    until lives.empty?
      seed = lives.shift
      Records.db.transaction(savepoint: true, rollback: :always) do
        random = Random.new(seed)
        pace = [[nil, nil], [300, 1500]].sample(random: random)
        hours = [[0, 1440], [500, 1300]].sample(random: random)
        box = make_mailbox(account_id: maren.id, daily_limit: random.rand(1..5), pace_from: pace.first, pace_to: pace.last,
          hours_from: hours.first, hours_to: hours.last)
        plans = RandomPlans.new(random, letters: letters.map(&:id), other: other.id)
        sequence = draft_of(plans.whole, box)
        opens = random.rand(2).zero?
        rehearsal = rehearsed(sequence, opens ? Core::Rehearsing::Assumption.everybody_opens : nobody)
        # Some would reach nobody; whether somebody is handed over twice hangs on the other sequence.
        lives << seeds.rand(1_000_000) if lives.empty? && compared.zero? && ENV["LIFE"].nil?
        next if sequence.plan.all.grep(Core::Journey::Steps::HandOver).size > 1
        next unless Work::ReadyCheck.new(sequence, moment).call[:ready]

        start(sequence)
        run_to_the_end(sequence.refresh, opens: opens)
        compared += 1
        more, less = told(rehearsal) - went(sequence), went(sequence) - told(rehearsal)
        expect([more, less]).to eq([[], []]), "In the life #{seed}: #{more} were told, #{less} went"
      end
    end
  end
end
