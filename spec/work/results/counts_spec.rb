# frozen_string_literal: true

# Numbers on different screens are one number, whatever happens in between and in whatever order.
RSpec.describe "counts on all screens" do
  let(:random) { Random.new(RSpec.configuration.seed) }
  let(:people) { Array.new(12) { make_person } }
  let!(:sequence) do
    start(make_sequence(people: people, letters: [make_letter, make_letter(name: "Two"), make_letter(name: "Three")]), at: now - 3600)
  end
  let(:outcomes) do
    [Post::Outcomes::Accepted.new("250")] * 6 +
      [
        Post::Outcomes::Refused.said("550 5.1.1 user unknown", :recipient),
        Post::Outcomes::Refused.said("554 5.7.1 spam", :end),
        Post::Outcomes::Refused.said("451 later", :end),
        Post::Outcomes::Doubtful.new("gone"),
        Post::Outcomes::Unreachable.new("away")
      ]
  end

  it "count each letter of somebody who came to it twice, and the person once" do
    accept = -> { worker(transport: ToldTransport.new(*([Post::Outcomes::Accepted.new("250")] * 40))) }
    step, person = sequence.steps.first, people.first
    accept.call.dispatch_due(now + 86_400)
    first = Records::Delivery.first(person_id: person.id, step_id: step.id)
    again = Records::Member.create(**first.member.values.except(:id), round: 2, state: "finished", step_id: nil, due_at: nil)
    second = Records::Delivery.create(**first.values.except(:id, :key, :message_id), key: "again", member_id: again.id, round: 2)
    [first, second, second].each { |letter| Work::Happening.call("opened", at: now + 90_000, person_id: person.id, delivery: letter) }
    told = Work::Results.new(sequence).call
    opened = told[:steps].first[:figures].find { |one| one[:name] == "opened" }
    row = Web::SequenceRows.write([sequence.refresh]).first
    expect([opened[:count], opened[:base], told[:people], row[:people]]).to eq([2, 13, 12, 12])
    expect(Work::Results.new(sequence).people_of("opened", step_id: step.id).select_map(:id)).to eq([person.id])
  end

  it "count what came of a letter in doubt when it is settled that it arrived, and of the sent ones until then" do
    step, (person, other) = sequence.steps.first, people
    doubtful, taken = [person, other].map { |one| Records::Delivery.first(person_id: one.id, step_id: step.id) }
    doubtful.update(state: "in_doubt", sent_at: now)
    taken.update(state: "in_doubt", sent_at: now)
    Work::SettleDelivery.call(taken, "sent", moment: moment(now))
    [doubtful, taken].each do |letter|
      %w[opened replied].each { |kind| Work::Happening.call(kind, at: now + 90_000, person_id: letter.person_id, delivery: letter) }
    end
    counted = -> do
      figure = Work::Results.new(sequence).call[:total].find { |one| one[:name] == "opened" }
      row = Web::SequenceRows.write([sequence.refresh]).first
      of_letter = Work::LetterFigures.counts.values_at([step.letter_id, "sent"], [step.letter_id, "opened"])
      people = [Work::Results.new(sequence).people_of("replied"), Work::LetterFigures.people_of(step.letter, "opened")]
      [figure.values_at(:count, :base, :rate), row.values_at(:sent, :replied), of_letter, people.map(&:count)]
    end
    expect(counted.call).to eq([[1, 1, 1.0], [1, 1], [1, 1], [1, 1]])
    Work::SettleDelivery.call(doubtful.refresh, "sent", moment: moment(now + 100_000))
    expect(counted.call).to eq([[2, 2, 1.0], [2, 2], [2, 2], [2, 2]])
  end

  # Something that may happen at any time.
  def happen(at)
    delivery = Records::Delivery.where(sequence_id: sequence.id).exclude(sent_at: nil).all.sample(random: random)
    case random.rand(7)
    when 0, 1
      delivery &&
        Work::Happening.call(%w[opened clicked].sample(random: random), at: at, person_id: delivery.person_id, delivery: delivery)
    when 2
      delivery &&
        Work::Happening.call(
          %w[replied unsubscribed bounced].sample(random: random),
          at: at,
          person_id: delivery.person_id,
          delivery: delivery
        )
    when 3
      Records::Delivery
        .where(state: "in_doubt")
        .limit(1)
        .each { |doubt| Work::SettleDelivery.call(doubt, %w[sent again].sample(random: random), moment: moment(at)) }
    when 4
      Records::Member.active.limit(1).each { |member| Work::Leaving.call(member.lock!, "taken_out", at: at) }
    when 5
      Records::SetAside.limit(1).each { |aside| Work::TakeUp.new(aside, moment(at)).public_send(%i[again leave].sample(random: random)) }
    when 6
      worker(transport: ToldTransport.new(*outcomes.shuffle(random: random))).dispatch_due(at)
    end
  end

  # By letter, as the events say it.
  def heard
    Records::Event.by_people.where(sequence_id: sequence.id, kind: Work::LetterCounts::KINDS).select_map(%i[delivery_id kind])
      .group_by(&:first).transform_values { |told| Core::Results::Heard.bits(*told.map(&:last).uniq) }
  end

  def check
    all = figures(sequence)
    expect(Records::Delivery.where(sequence_id: sequence.id).exclude(heard: 0).select_hash(:id, :heard)).to eq(heard)
    row = Web::SequenceRows.write([sequence.refresh]).first
    results = Work::Results.new(sequence)
    expect(all.values_at("sent", "failed", "skipped", "in_doubt", "due").sum).to eq(all["planned"])
    expect(all["planned"]).to eq(36)
    expect(row.values_at(:planned, :sent, :replied, :in_doubt)).to eq(all.values_at("planned", "sent", "replied", "in_doubt"))
    expect(results.call[:statuses].sum { |status| status[:count] }).to eq(12)
    sequence.steps.each_with_index do |step, i|
      expect(results.call[:steps][i][:figures].filter_map { |figure| figure[:rate] }).to all(be_between(0, 1))
      of_step = results.call[:steps][i][:figures].to_h { |figure| [figure[:name], figure[:count]] }
      of_step.each { |name, count| expect(results.people_of(name, step_id: step.id).count).to eq(count), "#{name} of step #{i + 1}" }
    end
  end

  it "agree with each other and with their people at every moment" do
    at = Time.utc(2026, 5, 12, 10, 20)
    Records::Delivery.where(sequence_id: sequence.id, state: "due").update(due_at: at - 60)
    15.times do
      happen(at)
      check
      at += random.rand(1..20) * 3600
    end
  end
end
