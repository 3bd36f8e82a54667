# frozen_string_literal: true

# One question, asked of every screen that answers it: the numbers are the same, or the answer says what makes the difference.
RSpec.describe "figures of one sequence on all screens" do
  let!(:maren) { sign_in }
  let(:people) { Array.new(12) { make_person(city: "York") } }
  let(:letters) { [make_letter(name: "One", body: "[a](https://a.example)"), make_letter(name: "Two", body: "[b](https://b.example)")] }
  let(:draft) { make_sequence(people: people, letters: letters, mailbox: make_mailbox(account_id: maren.id)) }
  let(:accepting) { ToldTransport.new(*([Post::Outcomes::Accepted.new("250")] * 60)) }

  before { Records::Firm.save(postal_address: "4 Felt Yard, York") }

  def begin_sequence(sequence = draft)
    ready = call_api(:get, "/api/sequences/#{sequence.id}/ready")
    call_api(:post, "/api/sequences/#{sequence.id}/start", {version: sequence.refresh.version, letters: ready["letters"]})
    ready["letters"]
  end

  # Everybody has had both letters; five opened both, three of them clicked in both, and two replied to the second.
  def let_it_happen
    14.times { |n| worker(transport: accepting).dispatch_due(now + n * 86_400 + 7200) }
    both = people.map { |one| Records::Delivery.where(person_id: one.id).order(:id).all }
    at = now + 70 * 86_400
    hear = ->(kind, some) { some.each { |one| Work::Happening.call(kind, at: at, person_id: one.person_id, delivery: one) } }
    hear.call("opened", both.first(5).flatten)
    hear.call("clicked", both.first(3).flatten)
    hear.call("replied", both.first(2).map(&:last))
    standing_clock.advance_to(now + 71 * 86_400)
  end

  def results = call_api(:get, "/api/sequences/#{draft.id}/results")

  def total(name) = results["total"].find { |figure| figure["name"] == name }

  def searched(condition) = call_api(:post, "/api/people/search", {condition: condition})["total"]

  it "say of letters how many people they are, wherever people are counted" do
    begin_sequence
    let_it_happen
    {"opened" => [10, 5], "clicked" => [6, 3], "replied" => [2, 2], "sent" => [24, 12]}.each do |name, (letters, each_once)|
      behind = call_api(:get, "/api/sequences/#{draft.id}/results/people?figure=#{name}")
      activity = Work::LetterFigures::ACTIVITIES.fetch(name, name)
      same = searched({"activity" => activity, "sequence_id" => draft.id})
      expect([total(name).values_at("count", "people"), behind["total"], same]).to eq([[letters, each_once], each_once, each_once])
    end
  end

  it "count the letters of a sequence alike in lists, in its results and at the desk" do
    begin_sequence
    let_it_happen
    row = call_api(:get, "/api/sequences")["sequences"].find { |one| one["id"] == draft.id }
    all = call_api(:get, "/api/results")["sequences"].find { |one| one["id"] == draft.id }
    figures = ->(list) { list.to_h { |one| [one["name"], one["count"]] }.values_at("planned", "sent", "replied") }
    expect([row.values_at("planned", "sent", "replied"), figures.call(all["figures"]), figures.call(results["total"])].uniq)
      .to eq([[24, 24, 2]])
    of_letters = call_api(:get, "/api/letters/figures")["letters"]
    expect(of_letters.sum { |one| one["sent"] }).to eq(24)
    expect(of_letters.sum { |one| one["replied"] }).to eq(2)
  end

  it "say at the start what results say is planned, and how many more may come by lanes" do
    steps = PlanInput.of(draft)
    lane = {"test" => {"kind" => "opened"}, "steps" => [steps.last.except("id", :id)]}
    fork = {"kind" => "fork", "within" => {"amount" => 1, "unit" => "days"}, "lanes" => [lane]}
    Work::PlanSequence.change(draft, {version: draft.version, steps: [steps.first, fork, steps.last]}, moment: moment(account: maren))
    announced = begin_sequence
    told = results
    expect([total("planned")["count"], told["may"]]).to eq([12, 24]).or eq([24, 12])
    behind = call_api(:get, "/api/sequences/#{draft.id}/results/people?figure=may")
    expect(behind["total"]).to eq(12)
    expect(announced).to be_between(total("planned")["count"], total("planned")["count"] + told["may"])
  end
end
