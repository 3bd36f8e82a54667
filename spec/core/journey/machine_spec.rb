# frozen_string_literal: true

RSpec.describe Core::Journey::Machine do
  include JourneyPlans

  let(:joined) { Time.utc(2026, 5, 12, 6) }
  let(:opens) { Time.utc(2026, 5, 12, 8) }
  let(:plan) { plan_of(letter(1), letter(2, amount: 3), letter(3, amount: 5)) }

  def event(kind, at, id: 1, **about) = Core::Journey::Known::Event.new(id: id, kind: kind, at: at, by_machine: false, **about)

  def decide(plan, step_id, now, *events, base: joined, begun: nil, spent: [], **known)
    place = Core::Journey::Place.new(step_id: step_id, base: base, joined: joined, begun: begun, spent: spent)
    machine.next(plan, place, known(events: events, **known), now)
  end

  # What it decides, in short.
  def said(...)
    decision = decide(...)
    [decision.class.name[/\w+\z/].downcase.to_sym, *decision.to_h.except(:step, :due, :because).values.compact]
  end

  describe "a letter" do
    it "waits for its window, then goes" do
      expect(said(plan, 1, joined)).to eq([:wait, opens, :time])
      expect(decide(plan, 1, opens)).to have_attributes(step: plan[1], due: have_attributes(at: opens))
      expect(said(plan, 1, opens)).to eq([:send])
    end

    it "is counted from when the step before was done" do
      expect(decide(plan, 2, joined, base: Time.utc(2026, 5, 14, 9)).until_at.to_date).to eq(Date.new(2026, 5, 19))
    end

    it "is for those a condition picks; others pass it by when it is due" do
      some = plan_of(letter(1, only_for: :clients))
      expect(said(some, 1, joined)).to eq([:wait, opens, :time])
      expect(said(some, 1, opens, answers: {clients: true})).to eq([:send])
      expect(said(some, 1, opens, answers: {clients: false})).to eq([:skip, :not_for_them, opens])
      expect { decide(some, 1, opens) }.to raise_error(Core::Journey::Known::NotAsked)
    end

    it "is not sent after its time" do
      by_then = plan_of(letter(1, not_after: Core::Journey::Steps::NotAfter.new(at: opens + 60)))
      hours = plan_of(letter(1, not_after: Core::Journey::Steps::NotAfter.new(seconds: 3600)))
      expect([said(by_then, 1, opens + 60), said(by_then, 1, opens + 61)]).to eq([[:send], [:skip, :too_late, opens]])
      expect([said(hours, 1, opens + 3600), said(hours, 1, opens + 3601)]).to eq([[:send], [:skip, :too_late, opens]])
    end

    it "is skipped when its date is past, or goes at once where the step says so" do
      past = {counted: "date", date: Date.new(2026, 5, 4)}
      expect(said(plan_of(letter(1, **past)), 1, joined)).to eq([:skip, :too_late, joined])
      expect(said(plan_of(letter(1, **past, late: "at_once")), 1, opens)).to eq([:send])
    end

    it "passes by, or lets go, whoever has no such date" do
      around = {counted: "field", field: "person.birthday", yearly: true, unit: "days"}
      expect(said(plan_of(letter(1, **around)), 1, joined)).to eq([:skip, :no_date, joined])
      expect(said(plan_of(letter(1, **around, no_date: "leave")), 1, joined)).to eq([:leave, "no_date", joined])
      expect(said(plan_of(letter(1, **around)), 1, joined, dates: {"person.birthday" => Date.new(1980, 5, 14)}).first).to eq(:wait)
    end

    it "waits for a nod where somebody wants to look first" do
      looked_at = plan_of(letter(1, look_first: true))
      expect(said(looked_at, 1, opens)).to eq([:wait, :nod])
      expect(said(looked_at, 1, opens + 60, nods: [1])).to eq([:send])
    end

    it "waits for the working day after whoever is away is back, in its window, and says so" do
      expect(decide(plan, 1, joined, away_until: Date.new(2026, 5, 22))).to have_attributes(
        until_at: Time.utc(2026, 5, 25, 8),
        due: have_attributes(moved: :away)
      )
      expect(said(plan, 1, joined, away_until: Date.new(2026, 5, 11))).to eq([:wait, opens, :time])
    end

    it "is given to nobody twice, wherever a change of plan puts it" do
      expect(said(plan, 1, opens, had: [1])).to eq([:skip, :had_it, joined])
    end
  end

  describe "leaving" do
    it "comes before anything else, also behind the last step" do
      replied = event("replied", joined + 60)
      [1, nil].each { |step|
        expect(said(plan, step, Time.utc(2026, 6, 1), event("opened", joined), replied)).to eq([:leave, "replied", joined + 60])
      }
    end

    it "is not for what the plan does not mind, nor for a machine's doing" do
      stays = plan_of(letter(1), leave_on: [])
      expect(said(stays, 1, opens, event("replied", joined), event("converted", joined))).to eq([:send])
      scanned = event("replied", joined).tap { |one| one.by_machine = true }
      expect(said(plan, 1, opens, scanned)).to eq([:send])
    end

    Core::Journey::Happenings::ALWAYS_OUT.each do |kind|
      it "is for whoever has #{kind.tr("_", " ")}, whatever the plan says" do
        expect(said(plan_of(letter(1), leave_on: []), 1, joined, event(kind, joined))).to eq([:leave, kind, joined])
      end
    end

    it "is for those a condition picks, and for all on the last day" do
      bought = plan_of(letter(1), leave_if: :client)
      expect(said(bought, 1, joined, answers: {client: true})).to eq([:leave, "condition", joined])
      expect(said(bought, 1, opens, answers: {client: false})).to eq([:send])
      over = plan_of(letter(1), ends_at: opens)
      expect([said(over, 1, opens - 1).first, said(over, 1, opens)]).to eq([:wait, [:leave, "end_date", opens]])
    end
  end

  describe "a task" do
    let(:with_call) { plan_of(task(1), letter(2)) }

    it "is made when it is due, and its outcome waited for" do
      expect(said(with_call, 1, opens)).to eq([:do])
      expect(said(with_call, 1, opens + 60, begun: opens)).to eq([:wait, :outcome])
      done = event("task_done", opens + 50, step_id: 1, outcome: "spoke")
      expect(said(with_call, 1, opens + 60, done, begun: opens)).to eq([:pass, opens + 50])
      expect(said(with_call, 1, opens + 60, event("task_done", opens + 50, step_id: 9), begun: opens)).to eq([:wait, :outcome])
    end
  end

  describe "a fork" do
    let(:opened) { reaction("opened") }
    let(:clicked) { reaction("clicked", link: "https://ladle.example/offer") }
    let(:limit) { Time.utc(2026, 5, 14, 8) }

    # Five lanes' worth of trying: opened, clicked, and the rest.
    def fork_of(*tests, within: {amount: 2}, back: true)
      lanes = tests.each_with_index.map { |test, i| lane(50 + i, test, letter(10 + i), comes_back: back) }
      plan_of(fork(1, *lanes, lane(60, nil, letter(20)), within: within), letter(30))
    end

    def taken(...)
      decide(...).then { |decision|
        [decision.class.name[/\w+\z/], (decision.lane&.id if decision.respond_to?(:lane)),
          decision.respond_to?(:until_at) ? decision.until_at : decision.at]
      }
    end

    it "goes on at once with the first lane, at the time of what happened" do
      expect(taken(fork_of(opened, clicked), 1, opens + 60, event("opened", opens))).to eq(["Take", 50, opens])
    end

    it "waits for the limit where a lane above could still be taken" do
      plan = fork_of(clicked, opened)
      expect(taken(plan, 1, opens, event("opened", opens))).to eq(["Wait", nil, limit])
      expect(taken(plan, 1, limit, event("opened", opens))).to eq(["Take", 51, limit])
      both = [event("opened", opens), event("clicked", opens + 5, id: 2, link: clicked.link)]
      expect(taken(plan, 1, opens + 60, *both)).to eq(["Take", 50, opens + 5])
    end

    it "takes the otherwise when the time is over, and goes on behind the fork where there is none" do
      expect(taken(fork_of(opened), 1, limit)).to eq(["Take", 60, limit])
      expect(taken(plan_of(fork(1, lane(50, opened), within: {amount: 2}), letter(30)), 1, limit)).to eq(["Take", nil, limit])
      expect(taken(fork_of(opened), 1, limit + 60, event("opened", limit + 1))).to eq(["Take", 60, limit])
    end

    it "asks for another link's click in vain" do
      expect(taken(fork_of(clicked), 1, limit, event("clicked", opens, link: "https://ladle.example/"))).to eq(["Take", 60, limit])
    end

    it "lets a click settle for ten seconds, and counts none of a machine's" do
      click = event("clicked", opens, link: clicked.link)
      expect(taken(fork_of(clicked), 1, opens + 9, click)).to eq(["Wait", nil, opens + 10])
      expect(taken(fork_of(clicked), 1, opens + 10, click)).to eq(["Take", 50, opens])
      click.by_machine = true
      expect(taken(fork_of(clicked), 1, limit, click)).to eq(["Take", 60, limit])
    end

    it "takes a reply that it waits for instead of letting its member leave; once" do
      plan = fork_of(reaction("replied"))
      reply = event("replied", opens)
      expect(taken(plan, 1, opens, reply)).to eq(["Take", 50, opens])
      expect(said(plan, 10, opens, reply, spent: [1], base: opens).first).to eq(:send)
      expect(said(plan, 10, opens, reply, event("replied", opens + 5, id: 2), spent: [1])).to eq([:leave, "replied", opens + 5])
      expect(said(plan, 1, opens, event("unsubscribed", opens))).to eq([:leave, "unsubscribed", opens])
    end

    it "lets whoever bounced do what is no letter" do
      plan = plan_of(fork(1, lane(50, reaction("bounced"), task(10), letter(11)), within: {amount: 2}))
      bounced = event("bounced", opens)
      expect(taken(plan, 1, opens, bounced)).to eq(["Take", 50, opens])
      expect(said(plan, 10, opens, bounced, spent: [1])).to eq([:do])
      expect(said(plan, 11, opens, bounced, spent: [1])).to eq([:skip, :address_failed, opens])
    end

    it "decides by a condition, at once where nothing is waited for" do
      plan = fork_of(Core::Journey::Steps::Holds.new(condition: :client), within: nil)
      expect(taken(plan, 1, opens, answers: {client: true})).to eq(["Take", 50, opens])
      expect(taken(plan, 1, opens, answers: {client: false})).to eq(["Take", 60, opens])
    end

    it "forks on what came of a task" do
      plan = fork_of(reaction("task_done", step_id: 7, outcome: "spoke"), within: nil)
      done = event("task_done", joined, step_id: 7, outcome: "spoke")
      expect(taken(plan, 1, opens, done)).to eq(["Take", 50, joined])
      expect(taken(plan, 1, opens, done.dup.tap { |one| one.outcome = "no answer" })).to eq(["Take", 60, opens])
    end
  end

  it "gives the same answer to the same question" do
    expect(Array.new(3) { decide(plan, 2, joined) }.uniq.size).to eq(1)
  end
end
