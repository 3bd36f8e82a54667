# frozen_string_literal: true

# Different ways on: what people do, what holds of them, what colleagues say.
RSpec.describe "a sequence with different ways on" do
  let(:maren) { make_account(name: "Maren Holt") }
  let(:mailbox) { make_mailbox(account_id: maren.id) }
  let(:person) { make_person(owner_id: maren.id, standing: "lead") }
  let(:hello) { make_letter(name: "Hello") }
  let(:warm) { make_letter(name: "Warm") }
  let(:cold) { make_letter(name: "Cold") }
  let(:accepted) { ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")) }
  let(:client) { {"field" => "person.standing", "is" => "one_of", "value" => ["client"]} }
  let(:open_hours) { {"from_minute" => 0, "to_minute" => 1440, "days" => "any", "unit" => "minutes"} }

  def letter(which, **more) = {"kind" => "letter", "letter_id" => which.id, **open_hours, **more.transform_keys(&:to_s)}

  def task(**more) = {"kind" => "task", "words" => "Ring them", **open_hours, **more.transform_keys(&:to_s)}

  def lane(test, *steps, **more) = {"test" => test, "steps" => steps, **more.transform_keys(&:to_s)}

  def fork(*lanes, days: 5) =
    {"kind" => "fork", "lanes" => lanes, "within" => days && {"amount" => days, "unit" => "days", **open_hours.except("unit")}}

  def changing(what, to) = {"kind" => "change", "what" => what, "to" => to, **open_hours}

  def running(*steps, at: now, **more)
    draft = make_sequence(people: [person], letters: [], mailbox: mailbox)
    Work::PlanSequence.change(draft, {version: 1, steps: steps, **more}, moment: moment)
    @sequence = start(draft.refresh, at: at)
  end

  def round(at = now) = worker(transport: accepted).dispatch_due(at)

  def member = Records::Member.first(sequence_id: @sequence.id)

  def went = Records::Delivery.where(sequence_id: @sequence.id, state: "sent").order(:id).map { |one| one.letter.name }

  def due = Records::Delivery.where(sequence_id: @sequence.id, state: "due").map { |one| one.letter.name }

  def sent = Records::Delivery.where(sequence_id: @sequence.id, state: "sent").order(:id).first

  def happen(kind, at: now + 3600, **more) = Work::Happening.call(kind, at: at, person_id: person.id, delivery: sent, **more)

  def events = Records::Event.where(sequence_id: @sequence.id).order(:id).select_map(:kind)

  describe "waiting for a reaction" do
    before do
      running(letter(hello), fork(lane({"kind" => "opened"}, letter(warm)), lane(nil, letter(cold))))
      round
    end

    it "takes the lane at once, not at the next round" do
      expect([went, member.waits_for]).to eq([["Hello"], "reaction"])
      Work::Touch.call("opened", sent, at: now + 3600, by_machine: false)
      expect(due).to eq(["Warm"])
      expect(events).to include("lane_taken")
    end

    it "counts no machine" do
      Work::Touch.call("opened", sent, at: now + 3600, by_machine: true)
      expect([due, member.waits_for]).to eq([[], "reaction"])
    end

    it "goes on in the other lane when the time is over, and a reaction after that moves nobody" do
      expect(member.due_at).to be_between(now + 4 * 86_400, now + 6 * 86_400)
      round(member.due_at)
      expect(went).to eq(%w[Hello Cold])
      expect { Work::Touch.call("opened", sent, at: now + 10 * 86_400, by_machine: false) }.not_to(change { due })
    end

    it "does not move anybody while it is paused but by a lane, and sends nothing" do
      Work::RunSequence.call(@sequence, "pause", moment: moment)
      Work::Touch.call("opened", sent, at: now + 3600, by_machine: false)
      round(now + 86_400)
      expect([went, due]).to eq([["Hello"], ["Warm"]])
    end
  end

  it "takes the lane for an answer instead of letting its person out, and lets out whoever answers elsewhere" do
    running(letter(hello), fork(lane({"kind" => "replied"}, task(waits: false)), lane(nil, letter(cold))), letter(warm, amount: 100))
    round
    happen("replied")
    expect([member.state, Records::Task.select_map(:words), due]).to eq(["active", ["Ring them"], ["Warm"]])
    happen("replied", at: now + 7200)
    expect([member.state, member.left_reason]).to eq(%w[left replied])
  end

  it "does in the lane of a failed address what can still be done, and passes its letters by" do
    running(letter(hello), fork(lane({"kind" => "bounced"}, changing("tag", {"names" => ["gone away"]}), letter(cold)), lane(nil)))
    round
    happen("bounced")
    round(now + 7200)
    expect([person.tags_dataset.select_map(:name), went, member.state]).to eq([["gone away"], ["Hello"], "finished"])
  end

  it "takes a click for a person's only when no machine gives itself away within ten seconds" do
    running(letter(hello), fork(lane({"kind" => "clicked", "link" => "https://rooms.example"}, letter(warm)), lane(nil)))
    round
    click = ->(at, **how) { Work::Touch.call("clicked", sent, at: at, link: "https://rooms.example", by_machine: false, **how) }
    click.call(now + 100)
    expect([due, member.due_at]).to eq([[], now + 110])
    click.call(now + 105, by_machine: true, link: "https://rooms.example/trap")
    round(now + 200)
    expect([went, member.waits_for]).to eq([["Hello"], "reaction"])
    click.call(now + 2 * 86_400)
    round(now + 2 * 86_400 + 10)
    expect(went).to eq(%w[Hello Warm])
  end

  it "asks lanes in their order: an opening waits for the limit as long as a click may still come" do
    running(letter(hello), fork(lane({"kind" => "clicked"}, letter(warm)), lane({"kind" => "opened"}, letter(cold))))
    round
    happen("opened")
    expect([due, member.waits_for]).to eq([[], "reaction"])
    round(member.due_at)
    expect(went).to eq(%w[Hello Cold])
  end

  it "parts by what holds of somebody at that moment, also what the step before has changed" do
    lanes = [lane(client, letter(warm)), lane(nil, letter(cold))].each { |one| one["test"] &&= {"condition" => one["test"]} }
    running(changing("standing", {"standing" => "client"}), fork(*lanes, days: nil))
    round
    expect([went, person.refresh.standing]).to eq([["Warm"], "client"])
    story = Web::HistoryWords.new(Records::Event.where(person_id: person.id, kind: "field_changed").all, moment).entries.first
    expect(story.values_at(:words, :detail)).to eq(["Standing: lead → client", "by “Quieter rooms”"])
  end

  describe "a task" do
    before do
      about = {"kind" => "task_done", "outcome" => "interested"}
      running(task(id: -1, of: "owner", due_in: 2), fork(lane(about, letter(warm)), lane(nil, letter(cold)), days: nil))
    end

    it "is its owner's, waits, and forks on what came of it" do
      task = Records::Task.first
      expect(task).to have_attributes(account_id: maren.id, due_on: Date.new(2026, 5, 14), state: "open")
      expect([member.waits_for, due]).to eq(["outcome", []])
      Work::DoTask.call(task, outcome: "interested", note: "Friday", version: task.version, moment: moment(now + 60, account: maren))
      round(now + 60)
      expect(went).to eq(["Warm"])
      told = Web::HistoryWords.new(Records::Event.where(kind: "task_done").all, moment).entries.first
      expect(told.values_at(:words, :detail, :by)).to eq(["Done: Ring them", "interested: Friday", "Maren Holt"])
    end

    it "is done once, with an outcome that there is" do
      task = Records::Task.first
      done = ->(**with) { Work::DoTask.call(task, note: nil, version: task.version, moment: moment, outcome: nil, **with) }
      expect { done.call(outcome: "sang") }.to raise_error(Invalid, /no outcome/)
      done.call
      expect { done.call }.to raise_error(Invalid, /done already/)
      round
      expect(went).to eq(["Cold"])
    end

    it "is dropped when its person leaves" do
      Work::Happening.call("replied", at: now, person_id: person.id)
      expect(Records::Task.first).to have_attributes(state: "dropped", reason: "replied")
    end
  end

  describe "a hand-over" do
    let(:other) { start(make_sequence(people: [make_person], letters: [warm], mailbox: mailbox)) }

    def over(**more) = {"kind" => "hand_over", "sequence_id" => other.id, **open_hours, **more.transform_keys(&:to_s)}

    def places =
      Records::Member.where(person_id: person.id).order(:id).map { |one| [one.sequence_id == other.id, one.state, one.joined_by] }

    it "has them join the other, and leave or stay" do
      running(over, letter(cold))
      expect(places).to eq([[false, "left", "start"], [true, "active", "handed_over"]])
      expect([member.left_reason, @sequence.refresh.state]).to eq(%w[handed_over running])
      round
      expect(@sequence.refresh.state).to eq("ended")
    end

    it "passes by whoever is in it already, and is said before when the other does not run" do
      draft = make_sequence(people: [person], letters: [], mailbox: mailbox)
      Work::RunSequence.call(other, "stop", moment: moment)
      Work::PlanSequence.change(draft, {version: 1, steps: [over(stays: true), letter(cold)]}, moment: moment)
      expect(Work::ReadyCheck.new(draft.refresh, moment).call[:remarks].map { |one| one[:code] }).to eq(["not_running"])
      @sequence = start(draft)
      expect(Records::Event.first(kind: "skipped").data).to eq("reason" => "sequence_not_running")
      expect(due).to eq(["Cold"])
    end

    it "sets aside who goes round in a circle" do
      running(over(stays: true))
      3.times { |n|
        Records::Member.create(sequence_id: other.id, person_id: person.id, mailbox_id: mailbox.id, base: now, joined_at: now, status: "x",
          round: n + 5, state: "finished")
      }
      running(over(stays: true))
      expect(Records::SetAside.first(kind: "journey").reason).to include("3 times within a day")
    end
  end

  describe "changes" do
    it "moves the deal a letter would speak of, and passes by whoever has none" do
      deal = Work::ChangeDeal.create(person, {name: "Oak hall"}, moment: moment)
      running(changing("stage", {"stage" => "measured"}))
      expect(deal.refresh.stage).to eq("measured")
      deal.delete
      running(changing("stage", {"stage" => "measured"}))
      expect(Records::Event.where(kind: "skipped").map { |one| one.data["reason"] }).to eq(["no_deal"])
    end

    it "sets a status, but not over one that a colleague has set" do
      running(letter(hello), changing("status", {"status" => "won"}))
      Work::MemberStatus.set(member, "declined", at: now, account_id: maren.id)
      round
      expect(member.status).to eq("declined")
      running(letter(hello), changing("status", {"status" => "won"}))
      round
      expect(member.status).to eq("won")
    end

    it "passes by what is retired meanwhile, and nobody waits for it" do
      list = Work::KeepList.make("Fair", Records::Person.where(id: -1), moment: moment)
      running(letter(hello), changing("list", {"list_id" => list.id}), letter(cold))
      list.delete
      round
      expect([went, due]).to eq([%w[Hello Cold], []])
      expect(Records::Event.first(kind: "skipped").data).to eq("reason" => "change_gone")
    end
  end

  describe "what keeps a letter back" do
    it "is only for some: the others pass it by when its time has come" do
      running(letter(hello, only_for: client), letter(cold, amount: 10))
      expect([due, member.waits_for]).to eq([["Cold"], "time"])
      running(letter(hello, only_for: client, amount: 60), letter(cold, amount: 10))
      person.update(standing: "client")
      round(now + 7200)
      expect(went).to eq(["Hello"])
    end

    it "waits for a nod, which may come before its time" do
      running(letter(hello, look_first: true))
      expect([due, member.waits_for]).to eq([[], "nod"])
      Work::Nod.call(member, moment: moment(now, account: maren))
      round
      expect(went).to eq(["Hello"])
      expect { Work::Nod.call(member, moment: moment) }.to raise_error(Invalid)
    end

    it "goes no later than it may, however it was held up" do
      running(letter(hello, not_after: {"seconds" => 3600}), letter(cold, amount: 10))
      Work::RunSequence.call(@sequence, "pause", moment: moment)
      round(now + 7200)
      Work::RunSequence.call(@sequence.refresh, "resume", moment: moment(now + 7200))
      round(now + 7200)
      expect([went, Records::Event.first(kind: "skipped").data]).to eq([["Cold"], {"reason" => "too_late"}])
    end

    it "goes on without a letter that its server gives up, where its step says so" do
      running(letter(hello, without_it: true), letter(cold))
      worker(transport: ToldTransport.new(Post::Outcomes::Refused.said("550 policy", :end), Post::Outcomes::Accepted.new("250 ok")))
        .dispatch_due(now)
      expect([went, Records::SetAside.count]).to eq([["Cold"], 0])
      expect(events).to include("failed", "went_without")
    end
  end

  describe "leaving" do
    it "asks a condition before each step, and once a day" do
      running(letter(hello), letter(cold, amount: 3, unit: "days"), leave_if: client)
      round
      person.update(standing: "client")
      round(now + 3600)
      expect(member.state).to eq("active")
      round(now + 86_400)
      expect([member.state, member.left_reason]).to eq(%w[left condition])
    end

    it "ends for everybody on a day" do
      running(letter(hello), letter(cold, amount: 5, unit: "days"), ends_at: (now + 86_400).iso8601)
      round
      expect(due).to eq(["Cold"])
      round(now + 86_400)
      expect([member.left_reason, due, @sequence.refresh.state]).to eq(["end_date", [], "ended"])
    end
  end

  describe "what cannot be meant" do
    def refused(*steps)
      draft = make_sequence(people: [person], letters: [], mailbox: mailbox)
      Work::PlanSequence.change(draft, {version: 1, steps: steps}, moment: moment)
      nil
    rescue Invalid => error
      expect(draft.refresh.steps).to eq([])
      error.message
    end

    it "is refused with what is wrong, and nothing is written" do
      {
        fork => /no lane/,
        fork(lane(nil), lane(nil)) => /one “otherwise”/,
        fork(lane({"kind" => "sang"})) => /waits for one of/,
        fork(lane({"kind" => "opened", "step_id" => 99})) => /does not come before/,
        fork(lane({"condition" => {"field" => "person.shoe", "is" => "empty"}})) => /no field/,
        letter(hello, amount: 1_000_000, unit: "days") => /About the timing/,
        task(words: " ") => /what is to be done/,
        task(of: 0) => /no such colleague/,
        changing("tag", {}) => /say names/,
        changing("shoe", {}) => /A change is one of/,
        {"kind" => "hand_over", "sequence_id" => 0, **open_hours} => /no such sequence/
      }.each { |step, words| expect(refused(step)).to match(words) }
      expect(refused(*Array.new(500) { letter(hello) })).to match(/200 steps at most/)
      deep = (1..8).inject(letter(hello)) { |inner, _| fork(lane(nil, inner)) }
      expect(refused(deep)).to match(/6 deep/)
    end

    it "keeps its number for each step and lane when the plan is laid out anew" do
      draft = make_sequence(people: [person], letters: [], mailbox: mailbox)
      Work::PlanSequence.change(draft, {version: 1, steps: [letter(hello, id: -1), fork(lane({"kind" => "opened", "step_id" => -1}))]},
        moment: moment)
      plan = draft.refresh.tree
      expect(plan.last["lanes"].first["test"]["step_id"]).to eq(plan.first["id"])
      again = [plan.last.merge("lanes" => [plan.last["lanes"].first.merge("test" => nil)]), plan.first]
      Work::PlanSequence.change(draft, {version: 2, steps: again}, moment: moment)
      expect(draft.refresh.tree.map { |step| step["id"] }).to eq(plan.map { |step| step["id"] }.reverse)
      expect { Work::PlanSequence.change(draft, {version: 3, steps: [plan.first, plan.first]}, moment: moment) }
        .to raise_error(Invalid, /twice/)
    end
  end

  it "sets aside whoever cannot be carried on, and lets the others go", :own_fields do
    make_own_fields
    other = start(make_sequence(people: [make_person], letters: [warm], mailbox: mailbox))
    Records::Member.where(sequence_id: other.id).update(due_at: now)
    running(letter(hello, only_for: {"field" => "person.x_ceiling", "is" => "one_of", "value" => ["oak"]}, amount: 5))
    tree = @sequence.plans.first.tree.to_json.gsub("x_ceiling", "x_gone")
    @sequence.plans.first.update(tree: JSON.parse(tree))

    round(now + 3600)
    aside = Records::SetAside.first(kind: "journey")
    expect([aside.key.to_i, aside.reason]).to match([member.id, /no field "person.x_gone"/])
    expect(Records::Member.first(sequence_id: other.id).due_at).to be_nil
    # Shown once, and tried again when somebody says so.
    expect { round(now + 7200) }.not_to(change { Records::SetAside.first(kind: "journey").tries })
    @sequence.plans.first.update(tree: JSON.parse(tree.gsub("x_gone", "x_ceiling")))
    Work::TakeUp.new(aside, moment).again
    round(now + 7200)
    expect([member.state, Records::SetAside.count]).to eq(["finished", 0])
  end

  describe "one of its members" do
    def act(kind, **more)
      json = {"kind" => kind, "sequence_id" => @sequence.id, **more.transform_keys(&:to_s)}
      Work::ChangeMany.start(Work::Act.new(json, moment), Records::Person.where(id: person.id), moment: moment)
    end

    it "is not worked on while paused, though they take the lane, and goes on where they are" do
      running(letter(hello), fork(lane({"kind" => "opened"}, task(waits: false)), lane(nil)), letter(cold))
      round
      act("pause")
      Work::Touch.call("opened", sent, at: now + 60, by_machine: false)
      round(now + 3600)
      expect([events.include?("lane_taken"), Records::Task.count, went]).to eq([true, 0, ["Hello"]])
      act("go_on")
      round(now + 3600)
      expect([Records::Task.count, went]).to eq([1, %w[Hello Cold]])
    end

    it "has a letter that failed tried again when they are moved back to it" do
      running(letter(hello), letter(cold, amount: 100))
      worker(transport: ToldTransport.new(Post::Outcomes::Refused.said("550 policy", :end))).dispatch_due(now)
      Work::TakeUp.new(Records::SetAside.first(kind: "letter"), moment).leave
      act("move_to", step_id: @sequence.steps.first.id)
      round
      expect(went).to eq(["Hello"])
    end
  end

  it "tells who is at which step, who has been there, and who went which lane" do
    running(letter(hello), fork(lane({"kind" => "opened"}, letter(warm, amount: 60)), lane(nil, letter(cold))))
    round
    Work::Touch.call("opened", sent, at: now + 60, by_machine: false)
    first, fork, warm, = @sequence.steps.map(&:id)
    lane = Records::Lane.where(fork_id: fork).order(:position).get(:id)
    asked = ->(**about) do
      moment.audience("condition" => {"membership" => "was_in", **about.transform_keys(&:to_s)}).people.select_map(:id)
    end
    expect([asked.call(step_id: first), asked.call(step_id: warm), asked.call(lane_id: lane), asked.call(lane_id: lane + 1)])
      .to eq([[person.id], [person.id], [person.id], []])
    expect(asked.call(membership: "in", step_id: first)).to eq([])
    expect(asked.call(membership: "in", step_id: warm)).to eq([person.id])
  end

  it "records with each letter how things stood when it left" do
    person.update(company_id: make_company("The Copper Ladle", type: "restaurant").id)
    running(letter(hello))
    round
    person.update(standing: "client", owner_id: nil)
    expect(sent).to have_attributes(owner_id: maren.id, standing: "lead", company_type: "restaurant", joined_by: "start")
  end
end
