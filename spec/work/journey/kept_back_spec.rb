# frozen_string_literal: true

# Letters for some, at a time, after a nod; leaving; plans that cannot be meant; members that are acted on.
RSpec.describe "what keeps somebody from going on as planned" do
  include_context "with a plan in a few words"

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
        fork(lane(nil), lane(nil)) => /one “otherwise”/,
        fork(lane({"kind" => "sang"})) => /waits for one of/,
        fork(lane({"kind" => "opened", "step_id" => 99})) => /does not come before/,
        fork(lane({"condition" => {"field" => "person.shoe", "is" => "empty"}})) => /no field/,
        letter(hello, amount: 1_000_000, unit: "days") => /About the timing/,
        task(of: 0) => /no such colleague/,
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

  it "answers the letters before it where its step says so, and nothing else" do
    running(letter(hello), letter(warm, same_thread: true), letter(cold, same_thread: true), letter(hello))
    round
    mails = accepted.delivered.map { |one| Mail.new(one[:raw]) }
    ids = mails.map(&:message_id)
    expect(mails.map { |mail| [mail.in_reply_to, Array(mail.references)] }).to eq(
      [[nil, []], [ids[0], ids.first(1)], [ids[1], ids.first(2)], [nil, []]]
    )
  end

  it "records with each letter how things stood when it left" do
    person.update(company_id: make_company("The Copper Ladle", type: "restaurant").id)
    running(letter(hello))
    round
    person.update(standing: "client", owner_id: nil)
    expect(sent).to have_attributes(owner_id: maren.id, standing: "lead", company_type: "restaurant", joined_by: "start")
  end
end
