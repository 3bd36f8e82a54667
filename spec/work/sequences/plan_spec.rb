# frozen_string_literal: true

RSpec.describe "planning a sequence" do
  let(:maren) { make_account }
  let!(:own) { make_mailbox(account_id: maren.id) }
  let(:here) { moment(account: maren) }
  let(:step) do
    {
      "letter_id" => make_letter.id,
      "amount" => 0,
      "unit" => "working_days",
      "from_minute" => 540,
      "to_minute" => 690,
      "zone" => "theirs"
    }
  end

  def plan(steps, sequence, version: sequence.version) =
    Work::PlanSequence.change(sequence, {version: version, steps: steps}, moment: here)

  it "begins as a draft from the mailbox of whoever makes it" do
    make_mailbox
    sequence = Work::PlanSequence.make(name: " ", audience: nil, moment: here)

    expect(sequence).to have_attributes(state: "draft", name: "Sequence of 12 May", sender: {"kind" => "mailbox", "mailbox_id" => own.id})
  end

  it "keeps the number of a step that stays, since personal lines hang on it" do
    sequence = plan([step, step.merge("amount" => 3)], Work::PlanSequence.make(name: "A", audience: nil, moment: here))
    first, second = sequence.steps
    person = make_person
    Work::WriteIntoLetter.new(second, person, moment).line("A line") if second
    changed = plan([step.merge("id" => second.id, "amount" => 5)], sequence)

    expect(changed.steps.map { |one| [one.id, one.position, one.amount] }).to eq([[second.id, 0, 5]])
    expect(Records::PersonalLine.of_step(second.id)).to match(person.id => have_attributes(words: "A line", after: nil))
    expect(Records::Step[first.id].out_at).not_to be_nil
  end

  it "changes nothing at all when one step is unclear" do
    sequence = plan([step], Work::PlanSequence.make(name: "A", audience: nil, moment: here))

    [{"to_minute" => 541}, {"unit" => "fortnights"}].each do |wrong|
      expect { plan([step.merge(wrong)], Records::Sequence[sequence.id]) }.to raise_error(Invalid)
    end
    expect(sequence.refresh).to have_attributes(version: 2)
    expect(sequence.steps.size).to eq(1)
  end

  it "tells the second of two who change one plan" do
    sequence = Work::PlanSequence.make(name: "A", audience: nil, moment: here)
    plan([step], sequence, version: 1)

    expect { plan([], Records::Sequence[sequence.id], version: 1) }.to raise_error(Conflict)
    expect(sequence.refresh.steps.size).to eq(1)
  end

  it "refuses an audience whose condition cannot be read" do
    sequence = Work::PlanSequence.make(name: "A", audience: nil, moment: here)

    expect {
      Work::PlanSequence.change(sequence, {version: 1, audience: {"condition" => {"field" => "person.shoe"}}}, moment: here)
    }.to raise_error(Invalid)
    expect { Work::PlanSequence.change(sequence, {version: 1, audience: {"filter_id" => 0}}, moment: here) }.to raise_error(NotFound)
  end

  describe "the ruler" do
    include JourneyPlans

    it "lays steps out on the firm's days and names the days without post" do
      sequence = make_sequence # the second three working days after the first
      friday = moment(Time.utc(2026, 5, 22, 7))
      ruler = Work::Ruler.new(sequence.plan, friday)

      expect(ruler.dates(friday.now).values).to eq([Date.new(2026, 5, 22), Date.new(2026, 5, 28)])
      expect(ruler.days_off(friday.now)).to eq([Date.new(2026, 5, 23), Date.new(2026, 5, 24), Date.new(2026, 5, 25)])
    end

    it "knows the hours of the mailbox that letters come from" do
      box = make_mailbox(account_id: make_account.id, hours_from: 480, hours_to: 600)
      draft = make_sequence(letters: [], mailbox: box)
      hours = Work::Sender.of(draft, moment).hours(firm.zone)
      make_mailbox(account_id: make_account.id)
      draft.update(sender: {"kind" => "owner", "mailbox_id" => box.id})
      expect(Work::Sender.of(draft, moment).hours(firm.zone)).to be_nil

      # Steps of these numbers have their minutes in the afternoon.
      plan = plan_of(letter(1, from_minute: 570, to_minute: 1020), task(2, to_minute: 1080))
      days = ->(sends) { Work::Ruler.new(plan, moment, hours: sends).dates(now).values.map(&:day) }
      expect([nil, hours].map(&days)).to eq([[12, 12], [13, 13]])
    end

    it "is empty for an empty plan" do
      ruler = Work::Ruler.new(make_sequence(letters: []).plan, moment)

      expect([ruler.dates(now), ruler.days_off(now)]).to eq([{}, []])
    end
  end

  describe "the outlook" do
    it "gives each person their own minute, by their own clock" do
      people = [make_person, make_person(time_zone: "America/New_York"), make_person]
      rows = Work::Outlook.new(make_sequence(people: people), moment).rows
      firsts = rows.to_h { |row| [row.person.id, row.passage.first.last] }

      expect(firsts[people[0].id]).to be_between(now, Time.utc(2026, 5, 12, 10, 30))
      expect(firsts[people[1].id]).to be_between(Time.utc(2026, 5, 12, 13), Time.utc(2026, 5, 12, 15, 30))
      expect(firsts.values.uniq.size).to eq(3)
    end

    it "is what the start then plans, to the second" do
      sequence = make_sequence(people: Array.new(4) { make_person })
      outlook = Work::Outlook.new(sequence, moment).rows.to_h { |row| [row.person.id, row.passage.map { |_, at| at.round }] }
      start(sequence)
      members = sequence.members_dataset.all
      ahead = Work::Ahead.new(sequence, moment).call(members, Records::Person.as_hash(:id))
      expect(members.to_h { |member| [member.person_id, ahead[member.id].values.map(&:round)] }).to eq(outlook)
    end
  end

  describe "an audience" do
    it "is a filter and single people, minus those left out, each once" do
      york, hull, leeds = make_person(city: "York"), make_person(city: "Hull"), make_person(city: "Leeds")
      filter =
        Records::SavedFilter.create(
          name: "In York or Hull",
          condition: {
            "field" => "person.city",
            "is" => "one_of",
            "value" => %w[York Hull]
          },
          created_at: now,
          updated_at: now
        )
      audience = moment.audience({"filter_id" => filter.id, "people" => [leeds.id, york.id], "without" => [hull.id]})

      expect(audience.people.select_order_map(:id)).to eq([york.id, leeds.id])
    end

    it "follows its filter when that changes" do
      make_person(city: "York")
      filter =
        Records::SavedFilter.create(
          name: "There",
          condition: {
            "field" => "person.city",
            "is" => "one_of",
            "value" => ["Hull"]
          },
          created_at: now,
          updated_at: now
        )
      expect(moment.audience({"filter_id" => filter.id}).people.count).to eq(0)

      filter.change!({condition: {"field" => "person.city", "is" => "one_of", "value" => ["York"]}}, version: 1, now: now)
      expect(moment.audience({"filter_id" => filter.id}).people.count).to eq(1)
    end
  end
end

RSpec.describe "a conversion" do
  let(:person) { make_person }
  let(:sequence) { start(make_sequence(people: [person])) }
  let(:delivery) { sequence.deliveries.first }

  def reply(**values) =
    Records::Incoming.create(
      file_key: "f#{number}",
      kind: "reply",
      text: "Yes",
      raw: Sequel.blob(""),
      received_at: now,
      updated_at: now,
      **values
    )

  it "takes the member out, tops the ladder and adds its value" do
    delivery.update(state: "sent")
    Work::Conversion.call(
      reply(person_id: person.id, delivery_id: delivery.id),
      label: "visit booked",
      value_pence: 24_000,
      moment: moment
    )

    expect(Records::Member.first).to have_attributes(state: "left", left_reason: "converted", status: "won")
    expect(Work::Results.new(sequence).call[:value_pence]).to eq(24_000)
    expect(figures(sequence)).to include("sent" => 1, "converted" => 1, "skipped" => 1)
  end

  it "belongs to one sequence and leaves the others alone" do
    other = start(make_sequence(people: [person]))
    Work::Conversion.call(reply(person_id: person.id, delivery_id: delivery.id), label: "visit", value_pence: 0, moment: moment)

    expect(Records::Member.first(sequence_id: other.id).state).to eq("active")
  end

  it "needs a person and an amount that can be" do
    expect { Work::Conversion.call(reply, label: "x", value_pence: 1, moment: moment) }.to raise_error(Invalid) { |error|
      expect(error.code).to eq(:nobody)
    }
    expect { Work::Conversion.call(reply(person_id: person.id), label: "x", value_pence: -1, moment: moment) }.to raise_error(Invalid)
  end
end
