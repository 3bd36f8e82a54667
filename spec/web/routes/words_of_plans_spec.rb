# frozen_string_literal: true

# A plan holds what its letters say: what is written in one afterwards goes out once somebody lets it take effect.
RSpec.describe "letters of a running plan, over the API" do
  let!(:maren) { sign_in }
  let(:people) { Array.new(3) { make_person } }
  let(:letter) { make_letter(body: "Former words.") }
  let!(:sequence) { start(make_sequence(people: people, letters: [letter, make_letter, letter])) }
  let(:clerk) { worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))) }

  def path(more = "") = "/api/sequences/#{sequence.id}/proposal#{more}"

  def write(text)
    input = {body: document(text), version: letter.refresh.version}
    Work::WriteLetter.new(moment).change(letter, input)
  end

  def effect(status: 200, version: 0, letters: [{letter_id: letter.id, version: letter.refresh.version}], **more)
    call_api(:post, path("/effect"), {version: version, letters: letters, **more}, status: status)
  end

  def to_the_end
    at = Records::Delivery.min(:due_at)
    clerk.dispatch_due(at) while (at = clerk.next_due(after: at))
  end

  def sent(step) = Records::Delivery.where(step_id: sequence.steps[step].id, state: "sent").select_map(:text)

  def shown(step = 0) = call_api(:get, "/api/steps/#{sequence.steps[step].id}/stack/#{people.first.id}")["text"]

  it "go out as they were when it started, whatever is written in them since" do
    write("New words.")
    expect(shown).to include("Former words.")
    to_the_end
    expect(sent(2)).to have_attributes(size: 3).and all(include("Former words."))
  end

  it "take effect with their numbers, for whoever has not had them" do
    expect(call_api(:get, path)).to eq("version" => 0, "proposed" => false, "letters" => [])
    clerk.dispatch_due(Records::Delivery.max(:due_at))
    write("New words for {{person.first_name}}.")
    expect(call_api(:get, path)).not_to have_key("counts")
    seen = call_api(:get, path("?counts=true"))
    expect(seen["letters"]).to match([include("letter_id" => letter.id, "to_come" => 3, "gaps" => 0)])
    expect(seen["counts"]).to include("other_words" => 3, "untouched" => 0)
    behind = ->(kind, of = letter.id) { call_api(:get, path("/people?kind=#{kind}&of=#{of}"))["total"] }
    expect([behind["other_words"], behind["to_come"], behind["letter_gap"], behind["to_come", 0]]).to eq([3, 3, 0, 0])
    people.first.update(city: nil)
    people.drop(1).each { |person| person.update(city: "Hull") }
    write("New words for {{person.first_name}} of {{city}}.")
    expect(call_api(:get, path)["letters"]).to match([include("to_come" => 3, "gaps" => 1)])
    expect(behind["letter_gap"]).to eq(1)
    write("New words for {{person.first_name}}.")
    effect
    expect([shown(0), shown(2)]).to match([include("Former words."), include("New words")])
    to_the_end
    expect(sent(0)).to all(include("Former words."))
    expect(sent(2)).to have_attributes(size: 3).and all(include("New words"))
    expect(call_api(:get, path)["letters"]).to eq([])
  end

  it "change nothing but words: nobody's time or place, and no letter is written down twice" do
    write("New words.")
    before = Records::Delivery.order(:id).map { |one| one.values.except(:plan) }
    effect
    expect { Work::ApplyPlan.round(moment) }.to change { sequence.members_dataset.distinct.select_map(:plan) }.from([1]).to([2])
    expect(Records::Delivery.order(:id).map { |one| one.values.except(:plan) }).to eq(before)
  end

  it "leave what is proposed proposed, and stay behind when only that takes effect" do
    write("New words.")
    call_api(:put, path, {version: 0, steps: PlanInput.of(sequence.refresh).first(1)})
    effect(version: 1, proposed: false)
    expect(sequence.refresh.steps.size).to eq(3)
    expect(call_api(:get, path)).to include("proposed" => true, "version" => 1)
    write("Newer words.")
    effect(version: 1, letters: [])
    expect(sequence.refresh.steps.size).to eq(1)
    expect(call_api(:get, path)["letters"]).to match([include("letter_id" => letter.id)])
    expect(shown).to include("New words.")
  end

  it "refuse what was not seen, what says the same, and what is not in it" do
    write("New words.")
    seen = {letter_id: letter.id, version: letter.version}
    write("Newer words.")
    expect(effect(letters: [seen], status: 409)["error"]).to include("message" => match(/written in/))
    effect(letters: [{letter_id: make_letter.id, version: 1}], status: 422)
    effect(letters: [], status: 422)
    effect(version: 7, status: 409)
    effect
    expect(effect(status: 422)["error"]["code"]).to eq("same_words")
    expect(sequence.plans_dataset.count).to eq(2)
  end

  it "say how many would have a gap in the new words" do
    people.drop(1).each { |person| person.update(city: nil) }
    write("How is {{city}}?")
    expect(call_api(:get, path)["letters"]).to match([include("gaps" => 4, "gaps_at_most" => false)])
  end

  it "are not other words because of a name that nobody reads, and back as they were they are none" do
    Work::WriteLetter.new(moment).change(letter, {name: "Another name", version: letter.refresh.version})
    expect(call_api(:get, path)["letters"]).to eq([])
    former = letter.body
    write("New words.")
    expect(call_api(:get, "/api/letters/#{letter.id}")["running_in"]).to match([include("held" => true, "will" => 6)])
    Work::WriteLetter.new(moment).change(letter, {body: former, version: letter.refresh.version})
    expect(call_api(:get, path)["letters"]).to eq([])
    expect(call_api(:get, "/api/letters/#{letter.id}")["running_in"]).to match([include("held" => false)])
  end

  it "bring the files along that the plan holds, though one was taken out meanwhile" do
    other = start(make_sequence(people: people, letters: [filed = make_letter, make_letter]))
    file = Records::Attachment.create(letter_id: filed.id, name: "plan.txt", mime: "text/plain", bytes: 3, data: Sequel.blob("one"),
      created_at: now)
    write_effect(other, filed)
    call_api(:delete, "/api/letters/#{filed.id}/attachments/#{file.id}")
    expect(call_api(:get, "/api/letters/#{filed.id}")["attachments"]).to eq([])
    transport = ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))
    worker(transport: transport).dispatch_due(Records::Delivery.where(sequence_id: other.id).max(:due_at))
    expect(transport.delivered.map { |one| one[:raw] }.grep(/plan\.txt/).size).to eq(3)
    write_effect(other, filed)
    expect(Records::Attachment[file.id]).not_to be_nil
  end

  def write_effect(other, letter)
    input = {version: 0, letters: [{letter_id: letter.id, version: letter.refresh.version}]}
    call_api(:post, "/api/sequences/#{other.id}/proposal/effect", input)
  end
end
