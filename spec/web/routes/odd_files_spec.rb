# frozen_string_literal: true

# Files of sequences of somebody else's making: what is wrong with them is said, nothing is half taken in, and nothing is our fault.
RSpec.describe "odd files of sequences" do
  let!(:maren) { sign_in }
  let(:letter) { make_letter }
  let(:list) { Records::List.create(name: "Open days", created_at: now, updated_at: now) }
  let(:file) do
    draft = make_sequence(people: [make_person], letters: [])
    change = {"kind" => "change", "what" => "list", "to" => {"list_id" => list.id}}
    steps = [{"kind" => "letter", "id" => -1, "letter_id" => letter.id, "amount" => 0},
      {"kind" => "fork", "within" => {"amount" => 1, "unit" => "days"}, "lanes" => [
        {"test" => {"kind" => "opened", "step_id" => -1}, "steps" => [change]},
        {"test" => nil, "steps" => [{"kind" => "task", "words" => "Ring", "of" => maren.id}, {"kind" => "hand_over"}]}
      ]}]
    Work::PlanSequence.change(draft, {version: draft.version, steps: steps}, moment: moment)
    Work::KeepRule.make(draft, {kind: "tag", settings: {"tag" => "x"}}, moment: moment)
    JSON.parse(Work::SequenceOut.new(draft.refresh, moment).file)
  end

  none = {"type" => "passage", "attrs" => {"passage_id" => 7}}
  odd = [nil, true, 5, -1, 2**70, 1.5, "x", "", [], [nil], ["x", 5], {}, {"x" => 1}, {"type" => "doc"}, {"field" => "person.x_none"},
    "a" * 400, {"field" => "person.owner", "is" => "one_of", "value" => [1]}, {"list_id" => 77},
    {"type" => "doc", "content" => [none]}].freeze

  # Every place in it, as a path of keys and indices.
  def places(json, path = [])
    inner = if json.is_a?(Hash)
      json.to_a
    else
      (json.is_a?(Array) ? json.each_with_index.map { |one, i| [i, one] } : [])
    end
    [path, *inner.flat_map { |key, value| places(value, [*path, key]) }]
  end

  def changed(path, value)
    copy = Marshal.load(Marshal.dump(file))
    return value if path.empty?

    (path.size == 1) ? copy[path.first] = value : copy.dig(*path[0..-2])[path.last] = value
    copy
  end

  def answer_to(json)
    post "/api/sequences/file", JSON.generate({file: json, answers: {}})
    [last_response.status, last_response.body[0, 200]]
  end

  it "are answered, whatever stands where, and leave nothing behind when they are refused" do
    random = Random.new(RSpec.configuration.seed)
    counted = -> { [Records::Sequence.count, Records::Letter.count, Records::Step.count, Records::JoinRule.count] }
    wrong = places(file).product(odd).sample(400, random: random).filter_map do |path, value|
      before = counted.call
      status, body = answer_to(changed(path, value))
      left = [400, 404, 409, 422].include?(status) && counted.call != before
      [path, value, status, body] if left || ![201, 400, 404, 409, 422].include?(status)
    end
    expect(wrong).to eq([])
  end

  it "do not take a number of theirs for one of ours" do
    theirs = changed(["speaks_of"], {})
    expect(answer_to(theirs).first).to eq(422)
    expect(answer_to(changed(["speaks_of", "lists", 0, "id"], list.id + 1)).first).to eq(422)
    moved = changed(["letters", 0, "id"], letter.id + 50)
    expect(answer_to(moved).first).to eq(422)
  end
end
