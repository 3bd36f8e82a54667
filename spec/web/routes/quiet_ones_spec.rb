# frozen_string_literal: true

# Writing once more to those who had a letter and neither opened, clicked nor replied.
RSpec.describe "the quiet ones" do
  let!(:maren) { sign_in }
  let(:people) { Array.new(6) { make_person } }
  let(:sequence) { start(make_sequence(people: people, letters: [make_letter(name: "First"), make_letter(name: "Second")])) }
  let(:first) { sequence.steps.first }

  # Everybody has had the first letter, and nobody the second.
  before do
    at = Records::Delivery.where(step_id: first.id).max(:due_at)
    worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))).tap do |all|
      Records::Delivery.where(step_id: first.id).select_order_map(:due_at).uniq.each { |due| all.dispatch_due(due) }
      all.dispatch_due(at)
    end
    opens(people[0], "opened")
    opens(people[1], "clicked")
    opens(people[2], "replied")
    opens(people[3], "opened", by_machine: true)
  end

  def opens(person, kind, by_machine: false)
    letter = Records::Delivery.first(person_id: person.id, step_id: first.id)
    Work::Happening.call(kind, at: now + 90_000, person_id: person.id, delivery: letter, by_machine: by_machine)
  end

  def figure(figures) = figures.find { |one| one["name"] == "quiet" }["count"]

  def results = call_api(:get, "/api/sequences/#{sequence.id}/results")

  def behind(path) = call_api(:get, path)["people"].map { |one| one["id"] }

  it "are counted per letter and in all, and each number opens them" do
    expect(figure(results["steps"].first["figures"])).to eq(3)
    expect(figure(results["total"])).to eq(3)
    expect(figure(call_api(:get, "/api/results")["sequences"].first["figures"])).to eq(3)
    quiet = people.drop(3).map(&:id)
    expect(behind("/api/sequences/#{sequence.id}/results/people?figure=quiet&step_id=#{first.id}")).to match_array(quiet)
    expect(behind("/api/letters/#{first.letter_id}/figures/people?figure=quiet")).to match_array(quiet)
  end

  it "are written to in one move, and the sieve says why somebody of them would not get it" do
    made = call_api(:post, "/api/sequences/#{sequence.id}/write-again", {step_id: first.id}, status: 201)
    expect(made).to include("state" => "draft", "named" => false, "sieve" => {"matching" => 3, "would_get_it" => 3})
    expect(made["steps"]).to match([a_hash_including("kind" => "letter", "letter_id" => Integer)])
    people[4].update(consent: "no")
    people[5].update(deleted_at: now)
    made = call_api(:post, "/api/letters/#{first.letter_id}/write-again", {}, status: 201)
    expect(made["sieve"]).to eq("matching" => 2, "would_get_it" => 1)
    account = call_api(:post, "/api/audience/sieve", {audience: made["audience"]})
    expect(account.to_s).to match(/no/)
  end

  it "of a whole sequence are those who reacted to none of its letters" do
    made = call_api(:post, "/api/sequences/#{sequence.id}/write-again", {}, status: 201)
    expect(made).to include("sieve" => a_hash_including("matching" => 3))
    draft = make_sequence(people: [])
    nobody = call_api(:post, "/api/sequences/#{draft.id}/write-again", {}, status: 201)
    expect(nobody["sieve"]).to include("matching" => 0)
  end

  it "agree with a second count in raw SQL" do
    raw = Records.db[<<~SQL, first.id, first.id].get(:n)
      SELECT COUNT(*) AS n FROM people WHERE
        EXISTS (SELECT 1 FROM deliveries d WHERE d.person_id = people.id AND d.step_id = ? AND d.state = 'sent') AND
        NOT EXISTS (SELECT 1 FROM events e WHERE e.person_id = people.id AND e.step_id = ? AND NOT e.by_machine
          AND e.kind IN ('opened', 'clicked', 'replied'))
    SQL
    expect(figure(results["steps"].first["figures"])).to eq(raw)
  end
end
