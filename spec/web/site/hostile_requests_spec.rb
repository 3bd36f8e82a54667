# frozen_string_literal: true

# The whole contract, asked with what nobody would send. Which of it is another each time; the seed says which.
RSpec.describe "requests of ill will" do
  let(:examples) { ContractExamples.new }
  let(:random) { Random.new(RSpec.configuration.seed) }
  let(:person) { make_person }
  let(:sequence) { make_sequence(people: [person]) }
  let(:odd_parts) { %w[0 -1 99999999999999999999999 abc 1e5 %27 ..] }
  let(:odd_words) { ["", "-1", "9" * 30, "%27", "x" * 5000, "[]"] }

  # Numbers of what is there, so that a request gets as far as it can.
  def there(path)
    step = sequence.steps.first
    numbers = {"/people/" => person.id, "/sequences/" => sequence.id, "/letters/" => step.letter_id, "/stack/" => step.id}
    id = numbers.find { |part, _| path.include?(part) }&.last || 1
    path.gsub(/\{(\w+)\}/) { ($1 == "kind") ? "account" : id.to_s }
  end

  # Taken back each time: the next request finds everything as it was.
  def answer_to(verb, path, body)
    Records.db.transaction(savepoint: true, rollback: :always) { public_send(verb.downcase, path, body.nil? ? nil : JSON.generate(body)) }
    [last_response.status, last_response.media_type]
  end

  def asked(route)
    path = there(route.path)
    least = route.body && examples.least(route.body)
    bodies = route.body ? examples.hostile(route.body).sample(10, random: random) + [[], "x", nil] : [nil]
    paths = route.path.include?("{") ? odd_parts.sample(3, random: random).map { |odd| path.sub(%r{/\d+}, "/#{odd}") } : []
    queries = route.query.flat_map do |one|
      odd_words.sample(3, random: random).map { |odd| "#{path}?#{one["name"]}=#{odd}" } + ["#{path}?#{one["name"]}[a]=1"]
    end
    bodies.map { |body| [path, body] } + (paths + queries).map { |odd| [odd, least] }
  end

  it "are answered in JSON, and never by saying that something went wrong on our side" do
    sign_in
    Records::Firm.save(postal_address: "4 Felt Yard")
    statuses = Hash.new(0)
    examples.routes.each do |route|
      asked(route).each do |path, body|
        status, type = answer_to(route.verb, path, body)
        statuses[status] += 1
        expect(status).to be < 500, "#{route.verb} #{path[0, 200]} #{body.to_s[0, 300]}: #{last_response.body.b[0, 300].inspect}"
        expect(type).to eq("application/json").or(satisfy { status == 200 }), "#{route} #{body.to_s[0, 300]}"
      end
    end

    expect(statuses[401]).to eq(0)
    expect(statuses.values_at(200, 400, 422)).to all(be > 10)
  end
end
