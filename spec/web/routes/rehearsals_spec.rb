# frozen_string_literal: true

# A rehearsal over the API: what it says adds up, and nothing is written by it.
RSpec.describe "rehearsals over the API" do
  let!(:maren) { sign_in }
  let(:people) { Array.new(5) { make_person(owner_id: maren.id) } }
  let(:box) { make_mailbox(daily_limit: 2) }
  let(:draft) do
    make_sequence(people: people, letters: [], mailbox: box).tap do |one|
      letter = make_letter
      steps = [{"kind" => "letter", "letter_id" => letter.id, "amount" => 0},
        {"kind" => "fork", "within" => {"amount" => 2, "unit" => "working_days"}, "lanes" => [
          {"test" => {"kind" => "opened"}, "steps" => [{"kind" => "task", "words" => "Ring them", "amount" => 1, "waits" => false}]},
          {"test" => nil, "steps" => [{"kind" => "letter", "letter_id" => letter.id, "amount" => 1}]}
        ]}]
      Work::PlanSequence.change(one, {version: one.version, steps: steps}, moment: moment)
    end
  end

  def rehearse(status: 200, **input) = call_api(:post, "/api/sequences/#{draft.id}/rehearsal", input, status: status)

  def figures(told) =
    [told["letters"], told["days"].sum { |day| day["letters"] }, told["tasks"].sum { |day| day["tasks"] }, told["finished"]]

  it "say what would go on which day, whose tasks there would be, and what a full mailbox moves" do
    nobody = rehearse(assume: "nobody")
    expect(figures(nobody)).to eq([10, 10, 0, 5])
    expect(nobody["days"].map { |day| day["letters"] }.max).to eq(2)
    expect(nobody["mailboxes"]).to eq([{"id" => box.id, "address" => box.address, "a_day" => 2}])
    expect(figures(rehearse(assume: "everybody_opens"))).to eq([5, 5, 5, 5])
    expect(rehearse(assume: "everybody_opens")["tasks"].map { |day| day["account_id"] }.uniq).to eq([maren.id])
    expect([Records::Member.count, Records::Delivery.count, Records::Event.count]).to eq([0, 0, 0])
  end

  it "are the same with the same seed, and go by rates of one's own or by what people did" do
    rates = {opened: 0.5, clicked: 0.5, replied: 0.2, bounced: 0.1}
    told = Array.new(2) { rehearse(assume: "rates", rates: rates, seed: 5) }
    expect(told.first.except("run")).to eq(told.last.except("run"))
    expect(Array.new(8) { |seed| figures(rehearse(assume: "rates", rates: rates, seed: seed)) }.uniq.size).to be > 1
    expect(figures(rehearse(assume: "last_time"))).to eq([10, 10, 0, 5])
    before = start(make_sequence(people: people, letters: [make_letter]))
    Records::Delivery.where(sequence_id: before.id).update(state: "sent", sent_at: now)
    Records::Delivery.where(sequence_id: before.id).each { |letter| Work::Touch.call("opened", letter, at: now, by_machine: false) }
    expect(figures(rehearse(assume: "last_time"))[2]).to be > 2
    # Of five letters five were opened and two clicked: that is what is said, and assumed.
    two = Records::Delivery.where(sequence_id: before.id).order(:id).limit(2)
    two.each { |one| Work::Touch.call("clicked", one, at: now, by_machine: false) }
    expect(rehearse(assume: "last_time")["rates"]).to eq("opened" => 1.0, "clicked" => 0.4, "replied" => 0.0, "bounced" => 0.0)
    two.update(heard: Core::Results::Heard.bits("clicked"))
    expect(rehearse(assume: "last_time")["rates"]).to include("opened" => 0.6, "clicked" => be_within(1e-9).of(0.4))
  end

  it "tell one person's way, and when it would have been" do
    told = rehearse(assume: "nobody", person_id: people.last.id)
    expect(told["path"].map { |one| one["step_id"] }).to eq(draft.refresh.letter_steps.map(&:id))
    expect(told["out"]["reason"]).to be_nil
    expect(rehearse(assume: "nobody", person_id: 0)).to include("path" => [], "out" => nil)
  end

  def behind(**input) = call_api(:post, "/api/sequences/#{draft.id}/rehearsal/people", input)["people"].map { |one| one["id"] }

  it "open the people behind each number, and go on about the one that was run though it is another by now" do
    told = rehearse(assume: "everybody_opens")
    day = told["days"].first
    here = behind(run: told["run"], whose: day["mailbox_id"], from: day["date"], to: day["date"])
    expect(here.size).to eq(day["letters"])
    expect(behind(run: told["run"], of: "tasks", whose: maren.id)).to match_array(people.map(&:id))
    expect(behind(run: told["run"], of: "tasks", whose: nil)).to eq([])
    expect(behind(run: told["run"], of: "every_task")).to match_array(people.map(&:id))
    expect(told["moved"]).to include(a_hash_including("why" => "full", "later" => 3))
    expect(behind(run: told["run"], why: "full").size).to eq(3)
    expect([behind(run: told["run"], of: "everybody").size, behind(run: told["run"], out: "through").size]).to eq([5, 5])
    expect(behind(run: told["run"], out: "replied")).to eq([])
    Work::PlanSequence.change(draft.refresh, {version: draft.version, steps: PlanInput.of(draft).first(1)}, moment: moment)
    expect(rehearse(run: told["run"])["tasks"]).to eq(told["tasks"])
    expect(rehearse(assume: "everybody_opens")["tasks"]).to eq([])
    gone = call_api(:post, "/api/sequences/#{draft.id}/rehearsal/people", {run: "gone", of: "tasks"}, status: 409)
    expect(gone["error"]).to include("code" => "rehearsal_gone", "hint" => /again/)
    expect(behind(assume: "everybody_opens", of: "tasks", whose: maren.id)).to eq([])
  end

  it "show one life for each way through it, the one that most go first, and all who go it" do
    told = rehearse(assume: "rates", rates: {opened: 0.5}, seed: 3)
    lives = told["lives"]
    expect([lives.size, lives.sum { |life| life["people"] }]).to eq([told["ways"], 5])
    expect(lives.map { |life| life["people"] }).to eq(lives.map { |life| life["people"] }.sort.reverse)
    lives.each { |life| expect(behind(run: told["run"], way: life["way"])).to include(life["person_id"]) }
    expect(lives.map { |life| life["path"].size }).to all(eq(2))
  end

  it "say what others send from a mailbox on those days" do
    start(make_sequence(people: [make_person], letters: [make_letter], mailbox: box))
    first = rehearse["days"].min_by { |day| day["date"] }
    expect(first).to include("date" => "2026-05-12", "letters" => 1, "besides" => 1)
  end

  it "are not told of another sequence" do
    run = rehearse["run"]
    other = make_sequence(people: [])
    expect(call_api(:post, "/api/sequences/#{other.id}/rehearsal", {run: run})).to include("letters" => 0)
  end

  it "go on from where people are once it runs" do
    start(draft.refresh)
    worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))).dispatch_due(now + 3 * 86_400)
    sent = Records::Delivery.where(state: "sent").count
    expect(sent).to be_between(1, 9)
    at = now + 3 * 86_400
    told = Work::Rehearse.new(draft.refresh, moment(at)).run
    expect(sent + told.letters.size).to eq(10)
    expect(told.letters.map(&:at).min).to be >= at
  end

  it "are refused in words" do
    odd = [{assume: "x"}, {assume: "rates", rates: {opened: 2}}, {assume: "rates", rates: []}, {seed: "x"}, {person_id: []}, {run: 5}]
    odd.each do |input|
      post "/api/sequences/#{draft.id}/rehearsal", JSON.generate(input)
      expect(last_response.status).to eq(422).or(eq(400)), input.to_s
    end
  end
end
