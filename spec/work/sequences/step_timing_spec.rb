# frozen_string_literal: true

RSpec.describe "when a step goes out" do
  let(:ana) { make_person(birthday: Date.new(1980, 5, 20)) }
  let(:bo) { make_person(birthday: nil) }
  let(:draft) { make_sequence(people: [ana, bo], letters: Array.new(3) { make_letter }) }

  def lay_out(*timings)
    steps = draft.steps.zip(timings).map do |step, timing|
      {"id" => step.id, "letter_id" => step.letter_id, "amount" => 0, "unit" => "working_days", "from_minute" => 540, "to_minute" => 540,
       "zone" => "theirs", **(timing || {}).transform_keys(&:to_s)}
    end
    Work::PlanSequence.change(draft, {version: draft.refresh.version, steps: steps}, moment: moment)
  end

  def ready = Work::ReadyCheck.new(draft.refresh, moment).call

  def ahead(person)
    members = draft.members_dataset.where(person_id: person.id).all
    Work::Ahead.new(draft.refresh, moment).call(members, {person.id => person}).values.first.values.map(&:to_date)
  end

  it "is kept as it was laid out: months, days of the week, a day, a date of theirs" do
    lay_out({amount: 1, unit: "months", weekdays: [2, 4], days: "any"}, {counted: "date", on_date: "2026-07-01", late: "at_once"},
      {counted: "field", field: "person.birthday", amount: -10, unit: "days", yearly: true, no_date: "leave"})
    timings = draft.refresh.steps.map(&:timing)
    expect(timings.map(&:counted)).to eq(%w[step date field])
    expect(timings[0]).to have_attributes(unit: "months", weekdays: [2, 4], days: "any")
    expect(timings[1]).to have_attributes(date: Date.new(2026, 7, 1), late: "at_once")
    expect(timings[2]).to have_attributes(field: "person.birthday", amount: -10, yearly: true, no_date: "leave")
    expect(draft.plan.steps.map(&:timing)).to eq(timings)
  end

  it "refuses what cannot be meant, and a date nobody has" do
    {
      "a day that is none" => {counted: "date", on_date: "2026-02-30"},
      "no day" => {counted: "date"},
      "no date" => {counted: "field", field: "person.shoe_size", unit: "days"},
      "a field that is no date" => {counted: "field", field: "person.city", unit: "days"},
      "a million days" => {amount: 100_000, unit: "days"},
      "no day of the week" => {weekdays: []},
      "a weekend of working days" => {weekdays: [0, 6]}
    }.each { |what, timing| expect { lay_out(timing) }.to raise_error(Invalid), what }
    expect(draft.refresh.steps.map { |step| step.timing.counted }.uniq).to eq(["step"])
  end

  it "is laid out for each, by their own dates; who has none passes the step by, and all adds up" do
    around = {counted: "field", field: "person.birthday", amount: -1, unit: "days", yearly: true, days: "any"}
    lay_out({}, around, {amount: 1, unit: "weeks"})
    expect(ready).to include(ready: true, people: 2, letters: 5)
    start(draft)
    expect(ahead(ana)).to eq([Date.new(2026, 5, 12), Date.new(2026, 5, 19), Date.new(2026, 5, 26)])
    expect(ahead(bo)).to eq([Date.new(2026, 5, 12), Date.new(2026, 5, 19)])

    worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250"))).dispatch_due(now + 3600)
    expect(Records::Event.where(kind: "skipped").select_map(%i[person_id step_id data])).to eq(
      [[bo.id, draft.steps[1].id, JSON.generate(reason: "no_date")]]
    )
    expect(Web::HistoryWords.new(Records::Event.where(kind: "skipped").all, moment).entries.first[:words]).to eq("“A word” was passed by")
    expect(draft.steps.map { |step| Work::Accounting.new(draft.refresh).of(step).values_at("planned", "sent", "skipped", "due") }).to eq(
      [[2, 2, 0, 0], [2, 0, 1, 1], [2, 0, 0, 2]]
    )
  end

  describe "a date that changes under way" do
    before do
      lay_out({counted: "field", field: "person.birthday", unit: "days", yearly: true, days: "any"}, {amount: 1, unit: "days"})
      start(draft)
      worker(transport: ToldTransport.new).dispatch_due(now)
    end

    def waits_for
      waiting = Records::Delivery.where(person_id: ana.id, state: "due").select_map(%i[step_id due_at])
      waiting.map { |id, at| [id, at.to_date.iso8601] }
    end

    def born(day)
      change_person(ana, {"person.birthday" => day}, moment(account: make_account))
      worker(transport: ToldTransport.new).dispatch_due(now)
    end

    it "moves the letter that waits for it, sooner or later" do
      expect(waits_for).to eq([[draft.steps[0].id, "2026-05-20"]])
      born("1980-05-16")
      expect(waits_for).to eq([[draft.steps[0].id, "2026-05-16"]])
      born("1980-08-01")
      expect(waits_for).to eq([[draft.steps[0].id, "2026-08-01"]])
    end

    it "passes the step by when the date is gone, and all adds up" do
      born(nil)
      expect(waits_for).to eq([[draft.steps[1].id, "2026-05-13"]])
      figures = Work::Accounting.new(draft.refresh).of(draft.steps.first)
      expect(figures.values_at("planned", "skipped", "due")).to eq([2, 2, 0])
    end

    it "keeps nobody waiting who can be reckoned when somebody cannot" do
      other = make_person(birthday: Date.new(1980, 5, 21))
      Work::AddPeople.new(draft.refresh, {"people" => [other.id]}, moment).call(letters: 3)
      allow(Work::Passing).to receive(:anew).and_wrap_original do |anew, member, *rest|
        (member.person_id == ana.id) ? raise("odd") : anew.call(member, *rest)
      end
      Work::ChangePerson.call(other.refresh, {"person.birthday" => "1980-07-01"}, version: other.version,
        moment: moment(account: make_account))
      born("1980-05-16")
      expect(Records::Delivery.where(person_id: other.id, state: "due").get(:due_at).to_date).to eq(Date.new(2026, 7, 1))
      expect(Records::SetAside.select_map(:kind)).to eq(["round"])
    end

    it "is moved back by an undo" do
      at = moment(account: make_account)
      act = Work::Act.new({"kind" => "field", "field" => "person.birthday", "value" => "1980-06-02"}, at)
      set = Work::ChangeMany.start(act, Records::Person.where(id: ana.id), moment: at)
      worker(transport: ToldTransport.new).dispatch_due(now)
      expect(waits_for.last.last).to eq("2026-06-02")
      Work::TakeBack.start(set.refresh, moment: at)
      worker(transport: ToldTransport.new).dispatch_due(now)
      expect(waits_for.last.last).to eq("2026-05-20")
    end
  end

  describe "what else changes under way" do
    let(:there) { moment(account: make_account) }

    def waiting = Records::Delivery.where(person_id: ana.id, state: "due").first

    def set(**values)
      change_person(ana, values.transform_keys { |key| "person.#{key}" }, there)
      worker(transport: ToldTransport.new).dispatch_due(now)
    end

    it "moves the letter that waits when somebody turns out to live elsewhere" do
      lay_out({amount: 1, unit: "days", from_minute: 540, to_minute: 540})
      start(draft)
      worker(transport: ToldTransport.new).dispatch_due(now)
      expect { set(time_zone: "Pacific/Auckland") }
        .to change { waiting.due_at }.from(Time.utc(2026, 5, 13, 8)).to(Time.utc(2026, 5, 12, 21))
    end

    it "comes from whoever looks after them by then, unless the thread has begun" do
      boxes = Array.new(2) { |n| make_mailbox(account_id: make_account(name: "Colleague #{n}").id) }
      ana.update(owner_id: boxes[0].account_id)
      lay_out({amount: 1, unit: "days"}, {amount: 1, unit: "days"})
      draft.refresh.update(sender: {"kind" => "owner", "mailbox_id" => boxes[0].id})
      start(draft.refresh)
      worker(transport: ToldTransport.new).dispatch_due(now)
      expect { set(owner: boxes[1].account_id) }.to change { waiting.mailbox_id }.from(boxes[0].id).to(boxes[1].id)
      worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))).dispatch_due(waiting.due_at)
      expect { set(owner: boxes[0].account_id) }.not_to(change { waiting.mailbox_id })
    end

    it "hears of a deal, which stands in nobody's history" do
      deal = Work::ChangeDeal.create(ana, {name: "Oak hall", expected_on: "2026-06-10"}, moment: there)
      lay_out({counted: "field", field: "deal.expected_on", amount: -2, unit: "days", days: "any"})
      start(draft)
      expect(waiting.due_at.to_date).to eq(Date.new(2026, 6, 8))
      Work::ChangeDeal.call(deal, {expected_on: "2026-07-01"}, version: deal.version, moment: there)
      expect(waiting.due_at.to_date).to eq(Date.new(2026, 6, 29))
    end
  end

  it "has those join behind a step whose date they have not, and those who have none of them behind all" do
    around = {counted: "field", field: "person.birthday", unit: "days", yearly: true, days: "any"}
    lay_out(around, {amount: 1, unit: "days"}, around)
    start(draft)
    expect(Records::Member.order(:person_id).select_map(%i[person_id step_id state])).to eq(
      [[ana.id, draft.steps[0].id, "active"], [bo.id, draft.steps[1].id, "active"]]
    )
    only = make_sequence(people: [bo], letters: [make_letter])
    Records::Step.where(sequence_id: only.id).update(counted: "field", field: "person.birthday", unit: "days", yearly: true)
    expect(Work::ReadyCheck.new(only.refresh, moment).call[:remarks].map { |remark| remark[:code] }).to eq(["no_time"])
    only.update(audience: {"people" => [ana.id, bo.id]})
    start(only.refresh)
    whole = Records::Event.where(sequence_id: only.id, person_id: bo.id).order(:id).select_map(:kind)
    expect(whole).to eq(%w[joined skipped finished])
  end

  it "lets go whoever has not the date, where the step says so" do
    lay_out({}, {counted: "field", field: "person.birthday", unit: "days", yearly: true, no_date: "leave"})
    start(draft)
    worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250"))).dispatch_due(now + 3600)
    expect(Records::Member.first(person_id: bo.id)).to have_attributes(state: "left", left_reason: "no_date")
  end

  it "does not begin with a day that is past, and passes one by that passes meanwhile" do
    lay_out({counted: "date", on_date: "2026-05-11"})
    expect(ready[:remarks].map { |remark| remark[:code] }).to include("date_past")
    lay_out({}, {counted: "date", on_date: "2026-05-12", from_minute: 540, to_minute: 540})
    start(draft, at: now)
    expect(ahead(ana).size).to eq(3)
    worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250"))).dispatch_due(now + 7200)
    expect(Records::Member.first(person_id: ana.id).step_id).to eq(draft.steps[2].id)
  end

  it "keeps a step around nobody's date where the one before stands on the ruler" do
    lay_out({}, {counted: "field", field: "person.birthday", unit: "days", yearly: true}, {amount: 2})
    expect(Work::Ruler.new(draft.refresh.plan, moment).dates(now).values).to eq([12, 12, 14].map { |day| Date.new(2026, 5, day) })
  end

  it "asks for room once on a day of its own" do
    draft.update(sender: {"kind" => "mailbox", "mailbox_id" => make_mailbox(daily_limit: 1).id})
    lay_out({counted: "date", on_date: "2026-06-03"})
    expect(Work::Outlook.new(draft.refresh, moment).rows.map { |row| row.passage.first.last.to_date }.uniq).to eq([Date.new(2026, 6, 3)])
  end

  it "looks for room on the next of its days of the week when one is full" do
    draft.update(sender: {"kind" => "mailbox", "mailbox_id" => make_mailbox(daily_limit: 1).id})
    lay_out({weekdays: [4]})
    days = Work::Outlook.new(draft.refresh, moment).rows.map { |row| row.passage.first.last.to_date }
    expect(days).to eq([Date.new(2026, 5, 14), Date.new(2026, 5, 21)])
  end

  describe "in words" do
    def said(first: false, **timing) = Work::TimingWords.say(Core::Calendar::Timing.new(**timing), first: first)

    {
      {first: true} => "on joining",
      {} => "same day",
      {amount: 3} => "3 working days later",
      {amount: 1, unit: "months", first: true} => "1 month after joining",
      {amount: 2, unit: "weeks", counted: "joining"} => "2 weeks after joining",
      {counted: "date", date: Date.new(2026, 7, 1)} => "on 1 Jul 2026",
      {counted: "field", field: "person.birthday", amount: -10, unit: "days", yearly: true} => "10 days before “birthday”, every year",
      {counted: "field", field: "person.fitted_on", amount: 0, unit: "days"} => "on “room fitted on”",
      {amount: 3, weekdays: [2, 3, 4]} => "3 working days later, on Tue to Thu",
      {amount: 3, weekdays: [1, 5]} => "3 working days later, on Mon and Fri",
      {amount: 1, unit: "days", days: "any"} => "1 day later, also on days off",
      {amount: 1, unit: "days", days: "any", weekdays: [0, 5, 6]} => "1 day later, on Fri to Sun"
    }.each { |timing, words| it("says #{words}") { expect(said(**timing)).to eq(words) } }
  end
end
