# frozen_string_literal: true

RSpec.describe "a sequence" do
  let(:maren) { make_account }

  def codes(sequence) = Work::ReadyCheck.new(sequence, moment).call[:remarks].map { |remark| remark[:code] }

  it "says what is missing before it starts" do
    expect(codes(make_sequence(letters: []))).to eq(["no_steps"])
    expect(codes(make_sequence(audience: {}).tap { |sequence| sequence.update(audience: {}) })).to include("no_audience")
    expect(codes(make_sequence(people: [make_person(email: nil)]))).to include("nobody")
    expect(codes(make_sequence(mailbox: make_mailbox(proved_at: nil)))).to eq(["mailbox_not_proved"])
    expect(codes(make_sequence(letters: [make_letter(subject: "")]))).to eq(["no_subject"])
    expect(codes(make_sequence.tap { |sequence| sequence.update(audience: {"filter_id" => 0}) })).to include("filter_gone")
    expect(codes(make_sequence.tap { |sequence| sequence.update(sender: {"kind" => "owner", "mailbox_id" => nil}) })).to eq(["no_mailbox"])
  end

  it "does not start empty, and keeps everything as it was" do
    sequence = make_sequence(people: [make_person(email: nil)])

    expect { Work::StartSequence.call(sequence, version: 1, letters: 0, moment: moment) }.to raise_error(Invalid) { |error|
      expect(error.data[:remarks].map { |remark| remark[:code] }).to eq(["nobody"])
    }
    expect(sequence.refresh.state).to eq("draft")
  end

  it "counts the letters with a gap, and lets them be mended" do
    whole, without = make_person, make_person(first_name: nil)
    sequence = make_sequence(people: [whole, without], letters: [make_letter(body: "Dear {{first name}}")])
    expect(codes(sequence)).to eq(["gaps"])
    expect(Work::ReadyCheck.new(sequence, moment).call).to include(ready: true, letters: 2, gaps: 1, waiting: 1)

    change_person(without, {"person.first_name" => "Bo"})
    expect(codes(sequence.refresh)).to eq([])
  end

  it "makes the sieve, the plan and the results say one number" do
    people = [make_person, make_person(email: nil), make_person(consent: "no"), make_person]
    sequence = make_sequence(people: people)
    sieve = moment.sieving(moment.audience(sequence.audience)).account
    ready = Work::ReadyCheck.new(sequence, moment).call
    start(sequence)

    expect(sieve[:would_get_it]).to eq(2)
    expect(ready).to include(people: 2, letters: 4)
    expect(figures(sequence)).to include("planned" => 4, "due" => 4, "sent" => 0)
    expect(Work::Results.new(sequence).people_of("planned").count).to eq(2)
  end

  it "does not start when the numbers moved since they were read back" do
    sequence = make_sequence(people: [make_person, make_person])
    Records::Person.first.update(do_not_mail: true)

    expect { Work::StartSequence.call(sequence, version: 1, letters: 4, moment: moment) }.to raise_error(Conflict) { |error|
      expect([error.code, error.data[:letters]]).to eq([:numbers_moved, 2])
    }
  end

  it "starts once" do
    sequence = start(make_sequence)

    expect { Work::StartSequence.call(sequence, version: 2, letters: 2, moment: moment) }.to raise_error(Invalid) { |error|
      expect(error.code).to eq(:not_a_draft)
    }
    expect { Work::PlanSequence.change(sequence, {version: 2, steps: []}, moment: moment) }.to raise_error(Invalid)
  end

  it "spreads a large start over days when a mailbox is full" do
    sequence = start(make_sequence(people: Array.new(5) { make_person }, letters: [make_letter], mailbox: make_mailbox(daily_limit: 2)))
    days = Records::Delivery.where(sequence_id: sequence.id).select_map(:due_at).map(&:to_date).tally

    expect(days).to eq(Date.new(2026, 5, 12) => 2, Date.new(2026, 5, 13) => 2, Date.new(2026, 5, 14) => 1)
  end

  it "writes from each person's owner, and falls back on the mailbox that is named" do
    own = make_mailbox(account_id: maren.id)
    fallback = make_mailbox
    people = [make_person(owner_id: maren.id), make_person]
    sequence = make_sequence(people: people).tap { |made| made.update(sender: {"kind" => "owner", "mailbox_id" => fallback.id}) }
    start(sequence)

    expect(Records::Member.order(:person_id).select_map(:mailbox_id)).to eq([own.id, fallback.id])
  end

  it "goes by a plan that is frozen under a number, and has events of its own" do
    sequence = start(make_sequence)
    %w[pause resume stop].each { |move| Work::RunSequence.call(sequence, move, moment: moment(account: maren)) }
    sequence.steps.first.update(amount: 9)

    expect(sequence.plan.steps.first.timing.amount).to eq(0)
    expect(Records::FrozenPlan.where(sequence_id: sequence.id).select_map(:number)).to eq([1])
    expect(Records::Member.where(sequence_id: sequence.id).select_map(:plan)).to eq([1])
    expect(Records::Event.where(kind: "joined", sequence_id: sequence.id).map(&:data)).to eq([{"plan" => 1, "by" => "start"}])
    expect(sequence.events.map { |event| [event.kind, event.account_id] }).to eq(
      [["started", nil], ["paused", maren.id], ["resumed", maren.id], ["stopped", maren.id]]
    )
    expect { Records::SequenceEvent.dataset.delete }.to raise_error(Sequel::DatabaseError, /appended only/)
  end

  it "lets one write into the letter of the round somebody is in, though they had it in the round before" do
    person = make_person
    draft = make_sequence(people: [person], letters: [make_letter, make_letter])
    first = draft.steps.first
    Work::WriteIntoLetter.new(first, person, moment).line("For the first time")
    sequence = start(draft)
    # What was written before they joined is theirs.
    expect(Work::Stack.new(first, moment).letter(person)[:line]).to eq("For the first time")
    sequence.deliveries_dataset.update(due_at: now + 60)
    worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250"))).dispatch_due(now + 60)
    expect { Work::WriteIntoLetter.new(first, person, moment).line("By the way") }.to raise_error(Invalid, /out already/)
    Work::Leaving.call(sequence.members_dataset.first, "taken_out", at: now)
    sequence.refresh.update(state: "running")
    Work::AddPeople.new(sequence, {"people" => [person.id]}, moment(now + 7200), again: "reset").call(letters: 2)

    expect(Work::Stack.new(first, moment).letter(person)).to include(state: "due", line: nil)
    Work::WriteIntoLetter.new(first, person, moment).line("By the way")
    expect(Work::Stack.new(first, moment).letter(person)[:line]).to eq("By the way")
  end

  it "refuses a plan that is too long while it is laid out" do
    draft = make_sequence
    steps = Array.new(Core::Journey::PlanJson::MOST_STEPS + 1) { {"letter_id" => draft.steps.first.letter_id, "amount" => 0} }
    expect { Work::PlanSequence.change(draft, {version: 1, steps: steps}, moment: moment) }.to raise_error(Invalid, /200 steps at most/)
  end

  it "moves only as its state allows, and takes everybody out when stopped" do
    sequence = start(make_sequence)
    expect { Work::RunSequence.call(sequence, "resume", moment: moment) }.to raise_error(Invalid)

    Work::RunSequence.call(sequence, "stop", moment: moment(account: maren))
    expect(figures(sequence)).to include("planned" => 2, "skipped" => 2)
    expect(sequence.refresh).to have_attributes(state: "stopped", ended_at: now)
  end

  it "keeps a status that was set by hand from a lower event, and climbs past it on a higher one" do
    sequence = start(make_sequence)
    member = Records::Member.first(sequence_id: sequence.id)
    delivery = Records::Delivery.first(member_id: member.id)
    Work::MemberStatus.set(member, "answered", at: now, account_id: maren.id)
    Work::Happening.call("opened", at: now, person_id: member.person_id, delivery: delivery)
    expect(member.refresh).to have_attributes(status: "answered", status_by_hand: true)

    Work::Happening.call("converted", at: now, person_id: member.person_id, delivery: delivery, data: {value_pence: 100})
    expect(member.refresh.status).to eq("won")
    expect { Work::MemberStatus.set(member, "king", at: now, account_id: maren.id) }.to raise_error(Invalid)
  end

  it "counts each person once per letter, and no machine" do
    sequence = start(make_sequence)
    delivery = Records::Delivery.first(sequence_id: sequence.id).update(state: "sent")
    2.times { Work::Happening.call("opened", at: now, person_id: delivery.person_id, delivery: delivery) }
    Work::Happening.call("clicked", at: now, person_id: delivery.person_id, delivery: delivery, by_machine: true)

    expect(figures(sequence)).to include("opened" => 1, "clicked" => 0)
    expect(Work::Results.new(sequence).people_of("opened").select_map(:id)).to eq([delivery.person_id])
    expect { Work::Results.new(sequence).people_of("sneezed") }.to raise_error(Invalid)
  end
end

RSpec.describe "the stack" do
  let(:person) { make_person(city: nil) }
  let(:sequence) { make_sequence(people: [person, make_person], letters: [make_letter(body: "Dear {{first name}},\n\nHow is {{city}}?")]) }
  let(:stack) { Work::Stack.new(sequence.steps.first, moment) }
  let(:stack_list) { Work::StackList.new(sequence.steps.first, moment) }

  it "shows each person's own letter and marks what is missing" do
    list = stack_list.call

    expect(list).to include(total: 2, with_gaps: 1, personal: 0)
    expect(list[:rows].first).to include(
      person_id: person.id,
      gaps: [{field: "person.city", label: "City"}],
      goes_at: a_value_between(Time.utc(2026, 5, 12, 8), Time.utc(2026, 5, 12, 10, 30))
    )
    expect(stack.letter(person)).to include(
      gaps: [{field: "person.city", label: "City"}],
      text: a_string_including("Maren Holt\nTern & Fallow Acoustics")
    )
    expect(stack.html(person)).to include('data-gap="person.city"', '<span class="nl-merged" title="First name">Ana</span>')
  end

  it "takes a line of one's own into one letter, until it is out" do
    into = Work::WriteIntoLetter.new(sequence.steps.first, person, moment)
    into.line("It was good to meet you.")
    expect(stack.letter(person)[:text]).to start_with("Dear Ana,\n\nIt was good to meet you.\n\nHow is")
    expect(stack_list.call).to include(personal: 1)

    person.update(city: "York")
    start(sequence.refresh)
    Records::Delivery.where(person_id: person.id).update(state: "sent", sent_at: now)
    expect { into.line("Too late") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:already_out) }
  end

  it "shows a letter that is out as it went, whatever the record says since" do
    person.update(city: "York")
    start(sequence.refresh)
    transport = ToldTransport.new(Post::Outcomes::Accepted.new("250"))
    worker(transport: transport).dispatch_due(Records::Delivery.max(:due_at))
    person.update(city: "Hull", first_name: "Bo")

    expect(stack.letter(person.refresh)).to include(
      state: "sent",
      text: a_string_including("Dear Ana,", "How is York?"),
      gaps: [],
      goes_at: a_kind_of(Time)
    )
    expect(stack.letter(person)[:subject].map { |run| run[:text] }).to eq(["A word about your room"])
  end

  it "takes an empty line for none" do
    into = Work::WriteIntoLetter.new(sequence.steps.first, person, moment)
    into.line("Words")
    into.line("  ")

    expect(stack_list.call[:personal]).to eq(0)
  end
end

RSpec.describe "the post of the next two days" do
  it "counts by half hours, names the next batch, and shows the hold" do
    start(make_sequence(people: Array.new(3) { make_person }))
    ahead = Work::PostAhead.new(moment).call

    expect(ahead[:bins].sum { |bin| bin[:letters] }).to eq(3)
    expect(ahead[:next]).to include(letters: 3, mailboxes: 1)
    Work::PostHold.hold(moment)
    Work::PostHold.hold(moment)
    expect(Work::PostAhead.new(moment).call[:held]).to include(:at)
  end
end
