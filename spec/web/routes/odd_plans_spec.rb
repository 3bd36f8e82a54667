# frozen_string_literal: true

# Plans of somebody else's making: whatever is wrong with them is said, where and how, and never by a fault of ours.
RSpec.describe "odd plans over the API" do
  let!(:maren) { sign_in }
  let(:letter) { make_letter }
  let(:draft) { make_sequence(people: [make_person], letters: []) }

  values = [nil, true, 5, -1, 2**70, 1.5, "x", "", "\u0000", [], [nil], ["x", 5], {}, {"x" => 1}, {"field" => "person.city"},
    {"kind" => "opened"}, "2026-02-30", "9999-99-99T00:00:00Z", "a" * 400].freeze

  def answer_to(step)
    call = {version: draft.refresh.version, steps: step.is_a?(Array) ? step : [step]}
    patch "/api/sequences/#{draft.id}", JSON.generate(call)
    # What is taken in can be looked at.
    return [last_response.status, last_response.body[0, 200]] unless last_response.status == 200

    looked = %w[ready file].map { |what| get("/api/sequences/#{draft.id}/#{what}") && last_response }
    looked << (post("/api/sequences/#{draft.id}/copy", "{}") && last_response) if rand(5).zero?
    wrong = looked.find { |answer| answer.status >= 500 } || looked.first
    [wrong.status, wrong.body[0, 200]]
  end

  def fine?((status, _)) = [200, 400, 404, 409, 422].include?(status)

  def base(kind)
    common = {kind: kind, amount: 0, unit: "minutes", from_minute: 0, to_minute: 1440}
    {
      "letter" => common.merge(letter_id: letter.id),
      "task" => common.merge(words: "Ring them"),
      "change" => common.merge(what: "tag", to: {names: ["x"]}),
      "hand_over" => common.merge(sequence_id: draft.id),
      "fork" => {kind: "fork", within: {amount: 1, unit: "days"}, lanes: [{test: {kind: "opened"}, steps: []}]}
    }.fetch(kind)
  end

  parts = {
    "letter" => %i[id letter_id look_first not_after only_for amount unit counted on_date field weekdays days late no_date other zone],
    "task" => %i[words of due_in waits outcomes],
    "change" => %i[what to],
    "hand_over" => %i[sequence_id stays],
    "fork" => %i[within lanes]
  }
  parts.each do |kind, names|
    it "answers whatever stands in a #{kind}" do
      wrong = names.product(values).map { |name, value| [name, value, answer_to(base(kind).merge(name => value))] }
      expect(wrong.reject { |_, _, answer| fine?(answer) }).to eq([])
    end
  end

  it "answers whatever stands in a lane, in how long a fork waits, and in what a change is to be" do
    lane = {test: {kind: "opened"}, steps: []}
    odd = %i[id words test comes_back steps].product(values).map { |name, value| base("fork").merge(lanes: [lane.merge(name => value)]) }
    odd += %i[kind step_id link outcome condition].product(values).map { |name, value|
      base("fork").merge(lanes: [{test: {kind: "clicked"}.merge(name => value), steps: []}])
    }
    odd += %w[amount unit counted date on_date field weekdays days zone from_minute to_minute late].product(values).map { |name, value|
      base("fork").merge(within: {"amount" => 1, "unit" => "days", name => value})
    }
    kinds = {"field" => %w[field value], "tag" => %w[names], "list" => %w[list_id], "owner" => %w[owner_id], "standing" => %w[standing],
             "stage" => %w[stage], "status" => %w[status]}
    odd += kinds.flat_map { |what, names|
      names.product(values).map { |name, value|
        base("change").merge(what: what, to: {"field" => "person.city", "value" => "York"}.slice(*names).merge(name => value))
      }
    }
    wrong = odd.map { |step| [step, answer_to(step)] }.reject { |_, answer| fine?(answer) }
    expect(wrong.map(&:inspect)).to eq([])
  end

  it "answers whatever is said of leaving, and of how a plan hangs together" do
    odd = %i[leave_if ends_at leave_on].product(values).map { |name, value|
      patch "/api/sequences/#{draft.id}", JSON.generate({:version => draft.refresh.version, name => value})
      [name, value, [last_response.status, last_response.body[0, 200]]]
    }
    expect(odd.reject { |_, _, answer| fine?(answer) }).to eq([])
    fork = base("fork")
    rows = [[fork, fork], [base("letter").merge(id: -1)] * 2, [base("letter").merge(id: make_sequence.steps.first.id)],
      [fork.merge(lanes: [{steps: [fork.merge(lanes: [{steps: [fork]}])]}])], [base("hand_over")]]
    expect(rows.map { |steps| answer_to(steps) }.reject { |answer| fine?(answer) }).to eq([])
  end
end
