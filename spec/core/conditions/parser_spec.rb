# frozen_string_literal: true

RSpec.describe Core::Conditions::Parser do
  def parse(json, **rest) = described_class.new(**rest).parse!(json)

  # @return [Array(Symbol, String), nil] what kind of fault, and where
  def problem(json)
    parse(json)
    nil
  rescue Invalid => error
    [error.code, error.at]
  end

  def city(is, value) = {"field" => "person.city", "is" => is, "value" => value}

  describe "#parse!" do
    it "takes no condition for everybody" do
      expect([nil, {}].map { |json| parse(json) }.uniq).to eq([Core::Conditions::Nodes::All.new(parts: [])])
    end

    it "reads keys that are symbols as well" do
      expect(parse({field: "person.city", is: "empty"})).to eq(parse({"field" => "person.city", "is" => "empty"}))
    end

    it "makes a frozen tree, equal to another that says the same" do
      json = {"all" => [city("one_of", ["York"]), {"not" => {"activity" => "opened"}}]}

      expect(parse(json)).to be_frozen.and eq(parse(json))
      expect(parse(json).hash).to eq(parse(json).hash)
      expect(parse(json)).not_to eq(parse({"all" => []}))
    end

    it "keeps each value of a list once" do
      expect(parse(city("one_of", %w[York Hull York])).value).to eq(%w[York Hull])
      expect(parse({"field" => "person.birthday", "is" => "month_is", "value" => [5, 1, 5]}).value).to eq([1, 5])
    end
  end

  describe "#parse" do
    it "is nil for what cannot be read" do
      expect(described_class.new.parse({"activity" => "sneezed"})).to be_nil
    end
  end

  describe "what it says is wrong, and where" do
    {
      "a field nobody knows" => [
        {"all" => [{"field" => "person.shoe", "is" => "one_of", "value" => ["9"]}]},
        [:unknown_field, "condition.all[0].field"]
      ],
      "a field that is only merged" => [{"field" => "sender.name", "is" => "empty"}, [:unknown_field, "condition.field"]],
      "no object" => ["person.city", [:condition_unclear, "condition"]],
      "nothing to ask" => [{"value" => 3}, [:condition_unclear, "condition"]],
      "branches that are no list" => [{"any" => {}}, [:condition_unclear, "condition.any"]],
      "a question the field does not know" => [
        {"field" => "person.city", "is" => "in_last", "value" => 3},
        [:condition_unclear, "condition.is"]
      ],
      "no value" => [{"field" => "person.city", "is" => "one_of", "value" => []}, [:condition_unclear, "condition.value"]],
      "an empty word" => [{"field" => "person.city", "is" => "contains", "value" => " "}, [:condition_unclear, "condition.value"]],
      "a word of 201 letters" => [
        {"field" => "person.city", "is" => "contains", "value" => "x" * 201},
        [:condition_unclear, "condition.value"]
      ],
      "more values than a list holds" => [
        {"field" => "person.city", "is" => "one_of", "value" => (1..501).map(&:to_s)},
        [:condition_unclear, "condition.value"]
      ],
      "a choice there is not" => [
        {"field" => "person.standing", "is" => "one_of", "value" => ["king"]},
        [:condition_unclear, "condition.value[0]"]
      ],
      "a colleague who is no number" => [
        {"field" => "person.owner", "is" => "one_of", "value" => ["Maren"]},
        [:condition_unclear, "condition.value[0]"]
      ],
      "a list that is no number" => [
        {"field" => "person.lists", "is" => "one_of", "value" => ["Spring"]},
        [:condition_unclear, "condition.value[0]"]
      ],
      "an activity nobody does" => [{"activity" => "sneezed"}, [:condition_unclear, "condition.activity"]],
      "an activity never" => [{"activity" => "opened", "at_least" => 0}, [:condition_unclear, "condition.at_least"]],
      "a link that is no text" => [{"activity" => "clicked", "link" => 3}, [:condition_unclear, "condition.link"]],
      "a time without an amount" => [
        {"activity" => "opened", "within" => {"unit" => "days"}},
        [:condition_unclear, "condition.within.amount"]
      ],
      "a time in years" => [
        {"activity" => "opened", "within" => {"amount" => 1, "unit" => "years"}},
        [:condition_unclear, "condition.within"]
      ],
      "a membership of another kind" => [{"membership" => "near"}, [:condition_unclear, "condition.membership"]],
      "statuses that are no list" => [{"membership" => "in", "status" => "written"}, [:condition_unclear, "condition.status"]],
      "step nought" => [{"membership" => "in", "step" => 0}, [:condition_unclear, "condition.step"]],
      "a day that is none" => [
        {"field" => "person.fitted_on", "is" => "before", "value" => "31/31/26"},
        [:condition_unclear, "condition.value"]
      ],
      "a day of two hundred letters" => [
        {"field" => "person.fitted_on", "is" => "before", "value" => "2" * 200},
        [:condition_unclear, "condition.value"]
      ],
      "days the wrong way round" => [
        {"field" => "person.fitted_on", "is" => "between", "value" => %w[2026-05-12 2026-05-11]},
        [:condition_unclear, "condition.value"]
      ],
      "one day where two are needed" => [
        {"field" => "person.fitted_on", "is" => "between", "value" => ["2026-05-12"]},
        [:condition_unclear, "condition.value"]
      ],
      "the month after December" => [
        {"field" => "person.birthday", "is" => "month_is", "value" => [13]},
        [:condition_unclear, "condition.value"]
      ],
      "more days than a year has" => [
        {"field" => "person.birthday", "is" => "yearly_in_next", "value" => 367},
        [:condition_unclear, "condition.value"]
      ],
      "an amount in words" => [
        {"deals" => {"field" => "deal.value", "is" => "more_than", "value" => "much"}},
        [:condition_unclear, "condition.deals.value"]
      ],
      "an amount no record can hold" => [
        {"deals" => {"field" => "deal.value", "is" => "more_than", "value" => 10**15}},
        [:condition_unclear, "condition.deals.value"]
      ],
      "a deal's field outside of deals" => [
        {"field" => "deal.value", "is" => "more_than", "value" => 1},
        [:condition_unclear, "condition.field"]
      ],
      "a person's field within deals" => [
        {"deals" => {"field" => "person.city", "is" => "empty"}},
        [:condition_unclear, "condition.deals.field"]
      ],
      "an activity within deals" => [{"deals" => {"activity" => "opened"}}, [:condition_unclear, "condition.deals"]]
    }.each { |name, (json, expected)| it(name) { expect(problem(json)).to eq(expected) } }

    it "names the field and what it knows, so that one can put it right" do
      expect { parse({"field" => "person.city", "is" => "in_last"}) }.to raise_error(
        Invalid,
        /City cannot be asked with "in_last"; it knows one_of, contains, starts_with, empty/
      )
    end
  end

  describe "its limits" do
    it "goes ten levels deep and no further" do
      deep = ->(levels) { (1...levels).inject({"activity" => "opened"}) { |inner, _| {"not" => inner} } }

      expect(problem(deep.call(10))).to be_nil
      expect(problem(deep.call(11)).first).to eq(:condition_unclear)
    end

    it "holds a hundred tests, wherever they stand" do
      tests = ->(count) { {"any" => Array.new(count) { {"activity" => "opened"} }} }

      expect(problem(tests.call(100))).to be_nil
      expect(problem(tests.call(101))).to eq([:condition_unclear, "condition.any[100]"])
      expect(problem({"all" => [tests.call(60), tests.call(60)]}).first).to eq(:condition_unclear)
    end

    it "counts anew for each condition" do
      parser = described_class.new
      sixty = {"any" => Array.new(60) { {"activity" => "opened"} }}

      expect { 2.times { parser.parse!(sixty) } }.not_to raise_error
    end
  end

  it "asks what only letters know when it reads for a passage" do
    rain = {"field" => "lookup.rain", "is" => "yes"}

    expect(problem(rain)).to eq([:unknown_field, "condition.field"])
    expect { parse(rain, uses: %i[condition passage]) }.not_to raise_error
  end
end
