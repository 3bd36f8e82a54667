# frozen_string_literal: true

RSpec.describe Work::FilledGaps do
  let(:accepted) { ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")) }
  let!(:whole) { make_person(city: "York") }
  let!(:lacking) { make_person(city: nil) }
  let(:letter) { make_letter(body: "How is {{city}}?") }
  let(:sequence) { start(make_sequence(people: [whole, lacking], letters: [letter, make_letter(name: "Later")]), at: now - 3600) }

  def round(at = now + 86_400) = worker(transport: accepted).dispatch_due(at)

  def letter_of(person) = Records::Delivery.order(:id).first(sequence_id: sequence.id, person_id: person.id)

  def received = accepted.delivered.map { |one| Mail.new(one[:raw]) }.map { |mail| mail.to.first }

  before do
    sequence
    round
  end

  it "leaves who has a gap waiting as a member, shown with what is missing, while the others get their letter" do
    expect(received).to eq([whole.email])
    expect(letter_of(lacking)).to have_attributes(state: "failed", reason: "Nothing to put in for: city.")
    expect(Records::Member.first(sequence_id: sequence.id, person_id: lacking.id).state).to eq("active")
    expect(Records::SetAside.all).to match([have_attributes(kind: "letter", lacks: "person.city", delivery_id: letter_of(lacking).id)])
    expect(Web::SetAsideJson.rows(Records::SetAside.all)).to match(
      [include(person: {id: lacking.id, name: lacking.name}, gap: {step_id: sequence.steps.first.id, fields: ["person.city"]})]
    )
    expect(figures(sequence)).to include("planned" => 4, "sent" => 1, "failed" => 1)
  end

  it "leaves it as long as nothing is filled in" do
    change_person(lacking, {"person.first_name" => "Bo"})
    round
    expect(received).to eq([whole.email])
    expect(Records::SetAside.first.tries).to eq(1)
  end

  it "has it go once the record says it" do
    change_person(lacking, {"person.city" => "Whitby"})
    round(now + 2 * 86_400)
    expect(received.first(2)).to eq([whole.email, lacking.email])
    expect(letter_of(lacking).state).to eq("sent")
    expect(Records::SetAside.count).to eq(0)
  end

  it "has it go once it is filled for this letter only" do
    Work::WriteIntoLetter.new(sequence.steps.first, lacking, moment).fill("person.city", "Whitby")
    expect(Work::StackList.new(sequence.steps.first, moment).call).to include(with_gaps: 0)
    round(now + 2 * 86_400)
    expect(received).to include(lacking.email)
    expect(lacking.refresh.city).to be_nil
  end

  it "has it go once new words ask for less" do
    Work::WriteLetter.new(moment).change(letter, {body: doc(para("How are you?")), version: letter.refresh.version})
    round
    expect(received).to eq([whole.email])
    words = {"letter_id" => letter.id, "version" => letter.refresh.version}
    change = Work::ChangePlan.new(sequence.refresh, moment)
    expect(change.words.all).to match([have_attributes(to_come: [lacking.id], gaps: [])])
    change.effect(version: 0, letters: [words], proposed: false)
    Work::ApplyPlan.round(moment)
    round(now + 2 * 86_400)
    expect(received.first(2)).to eq([whole.email, lacking.email])
  end

  it "waits as before for who left by an act that is undone" do
    other = make_person(city: nil)
    at = moment(account: make_account)
    acts = {
      "bin" => -> { Work::ChangeMany.start(Work::Act.new({"kind" => "bin"}, at), Records::Person.where(id: lacking.id), moment: at) },
      "merge" => -> do
        Work::MergeRecords.call(other, lacking.refresh, {}, versions: [other.refresh.version, lacking.version], moment: at)
      end,
      "take out" => -> do
        act = Work::Act.new({"kind" => "take_out", "sequence_id" => sequence.id}, at)
        Work::ChangeMany.start(act, Records::Person.where(id: lacking.id), moment: at)
      end
    }
    waits = -> { Records::SetAside.select_map(%i[kind key lacks delivery_id]) }
    before = waits.call
    acts.each do |words, act|
      Work::TakeBack.start(act.call, moment: at)
      expect(waits.call).to eq(before), words
    end
    change_person(lacking.refresh, {"person.city" => "Whitby"})
    round(now + 2 * 86_400)
    expect(received).to include(lacking.email)
  end

  it "lists it in the stack as set aside, with its gap, until then" do
    step = sequence.steps.first
    row = include(person_id: lacking.id, state: "set_aside", gaps: [{field: "person.city", label: "City"}])
    expect(Work::StackList.new(step, moment).call(only: "gaps")).to include(with_gaps: 1, rows: [row])
    expect(Work::Stack.new(step, moment).letter(lacking)).to include(state: "set_aside")
  end

  it "waits for it where the step would go on without a letter that its server refuses" do
    other = make_sequence(people: [whole, make_person(city: nil)], letters: [letter, make_letter(name: "After")])
    other.steps.first.update(settings: {"without_it" => true})
    start(other.refresh, at: now - 3600)
    round
    expect(states(other)).to include("failed" => 1)
    expect(Records::SetAside.with_gap.count).to eq(2)
  end

  it "waits for nobody who has left" do
    Work::Leaving.call(Records::Member.first(sequence_id: sequence.id, person_id: lacking.id), "taken_out", at: now)
    change_person(lacking, {"person.city" => "Whitby"})
    round
    expect(received).to eq([whole.email])
    expect(Records::SetAside.count).to eq(0)
  end

  it "has a letter about a deal go once its person has one" do
    Records::Deal.create(person_id: whole.id, name: "Counter", stage: "talking", created_at: now)
    about = make_letter(name: "About a deal", body: "About {{deal name}}.", about: "deal")
    other = start(make_sequence(people: [whole, lacking], letters: [about]), at: now - 3600)
    round
    expect(received.last).to eq(whole.email)
    Records::Deal.create(person_id: lacking.id, name: "Ceiling", stage: "talking", created_at: now)
    round(now + 2 * 86_400)
    expect(states(other)).to eq("sent" => 2)
  end

  it "is taken up once by two workers who look at the same time", :processes do
    change_person(lacking, {"person.city" => "Whitby"})
    Array.new(2) { Thread.new { described_class.round(moment(now + 86_400)) } }.each(&:join)
    round(now + 2 * 86_400)
    expect(received.count(lacking.email)).to eq(1)
    expect(Records::Delivery.where(sequence_id: sequence.id, person_id: lacking.id).order(:id).select_map(:state)).to eq(%w[sent due])
  end

  it "keeps what goes wrong with one step from stopping others" do
    change_person(lacking, {"person.city" => "Whitby"})
    Records::Step.where(id: sequence.steps.first.id).update(letter_id: nil)
    other = start(make_sequence(people: [make_person], letters: [letter]), at: now - 3600)
    round(now + 2 * 86_400)
    expect(states(other)).to eq("sent" => 1)
    expect(Records::SetAside.where(kind: "round").select_map(:key)).to eq(["filled gaps of step #{sequence.steps.first.id}"])
  end
end
