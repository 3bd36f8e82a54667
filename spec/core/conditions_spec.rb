# frozen_string_literal: true

RSpec.describe Core::Conditions do
  let(:now) { Time.utc(2026, 5, 12, 8) }
  let(:today) { Date.new(2026, 5, 12) }

  def parse(json) = described_class::Parser.new.parse!(json)

  def match?(json, record) = described_class::InMemory.new(now: now, today: today, me: 7).match?(parse(json), record)

  def say(json, **names) = described_class::Sentence.new(names: names).say(parse(json))

  def field(name, is, value = nil) = {"field" => name, "is" => is, "value" => value}.compact

  describe "against one record in memory" do
    it "takes everybody for no condition, nobody for an empty choice" do
      expect(match?(nil, {})).to be(true)
      expect(match?({"all" => []}, {})).to be(true)
      expect(match?({"any" => []}, {})).to be(false)
    end

    it "forgives case, accents and white space in text, and nothing in choices" do
      expect(match?(field("person.city", "one_of", ["YORK "]), "person.city" => "Yörk")).to be(true)
      expect(match?(field("person.city", "contains", "or"), "person.city" => "York")).to be(true)
      expect(match?(field("person.city", "starts_with", "or"), "person.city" => "York")).to be(false)
      expect { match?(field("person.standing", "one_of", ["Lead"]), {}) }.to raise_error(Invalid)
    end

    it "lets an empty field pass no test but empty, and its opposite every other" do
      record = {"person.city" => " "}

      expect(match?(field("person.city", "empty"), record)).to be(true)
      expect(match?(field("person.city", "contains", "y"), record)).to be(false)
      expect(match?({"not" => field("person.city", "contains", "y")}, record)).to be(true)
    end

    it "knows me" do
      expect(match?(field("person.owner", "one_of", ["me"]), "person.owner" => 7)).to be(true)
      expect(match?(field("person.owner", "one_of", ["me", 8]), "person.owner" => 8)).to be(true)
      expect(match?(field("person.owner", "one_of", ["me"]), "person.owner" => nil)).to be(false)
    end

    it "counts days to and from today" do
      on = ->(date) { {"person.fitted_on" => date} }

      expect(match?(field("person.fitted_on", "in_last", {"amount" => 1, "unit" => "days"}), on.call(today))).to be(true)
      expect(match?(field("person.fitted_on", "in_last", {"amount" => 1, "unit" => "days"}), on.call(today - 1))).to be(false)
      expect(match?(field("person.fitted_on", "in_next", {"amount" => 2, "unit" => "days"}), on.call(today + 1))).to be(true)
      expect(match?(field("person.fitted_on", "in_next", {"amount" => 2, "unit" => "days"}), on.call(today + 2))).to be(false)
      expect(match?(field("person.fitted_on", "before", "2026-05-12"), on.call(today))).to be(false)
      expect(match?(field("person.fitted_on", "after", "2026-05-11"), on.call(today))).to be(true)
    end

    it "counts what people did, within the time, in the letter, and not what machines did" do
      opened = {kind: "opened", at: now - 3600, letter_id: 3, sequence_id: 1}
      record = {"events" => [opened, opened.merge(at: now - 40 * 86_400), opened.merge(by_machine: true), opened.merge(at: now + 60)]}

      expect(match?({"activity" => "opened", "at_least" => 2}, record)).to be(true)
      expect(match?({"activity" => "opened", "at_least" => 2, "within" => {"amount" => 30, "unit" => "days"}}, record)).to be(false)
      expect(match?({"activity" => "opened", "letter_id" => 4}, record)).to be(false)
      expect(match?({"activity" => "replied"}, record)).to be(false)
    end
  end

  describe "aloud" do
    it "names colleagues, letters and sequences" do
      expect(say({"all" => [field("person.owner", "one_of", [2, "me"]), {"activity" => "clicked", "letter_id" => 5, "within" => {"amount" => 1, "unit" => "days"}}]}, owners: {2 => "Petra Lund"}, letters: {5 => "Winter letter"}))
        .to eq("everyone who is looked after by Petra Lund or me and clicked in “Winter letter” in the last day")
    end

    it "keeps apart what belongs together" do
      expect(say({"all" => [{"any" => [field("person.city", "one_of", ["York"]), field("company.type", "one_of", ["school"])]}, field("person.email", "empty")]}))
        .to eq("everyone who (is in York or whose company type is school) and has no address")
    end

    it "says how often, and what did not happen" do
      expect(say({"activity" => "opened", "at_least" => 3, "within" => {"amount" => 7, "unit" => "days"}})).to eq("everyone who opened any letter at least 3 times in the last 7 days")
      expect(say({"not" => {"activity" => "had_letter", "within" => {"amount" => 90, "unit" => "days"}}})).to eq("everyone who had no letter in the last 90 days")
      expect(say(field("person.fitted_on", "before", "2026-05-12"))).to eq("everyone whose room was fitted before 12 May 2026")
      expect(say(nil)).to eq("everyone")
    end
  end

  describe "as a value" do
    it "is frozen, and equal to another that says the same" do
      json = {"all" => [field("person.city", "one_of", ["York"]), {"not" => {"activity" => "opened"}}]}

      expect(parse(json)).to eq(parse(json))
      expect(parse(json).hash).to eq(parse(json).hash)
      expect(parse(json)).to be_frozen
      expect(parse(json)).not_to eq(parse({"all" => []}))
    end
  end
end

RSpec.describe Core::Fields::Catalogue do
  subject(:catalogue) { Core::Fields::Standard.catalogue }

  it "finds a field by key, label or bare name" do
    expect(["person.first_name", "First Name", "first_name", " first  name "].map { |words| catalogue.named(words)&.key }.uniq).to eq(["person.first_name"])
    expect(catalogue.named("shoe size")).to be_nil
  end

  it "offers the nearest, and none when nothing is near" do
    expect(catalogue.nearest("compny").key).to eq("company.name")
    expect(catalogue.nearest("zzzzzz")).to be_nil
  end

  it "gives each field an operator to ask with, and each operator a value it understands" do
    catalogue.for(:condition).each { |field| expect(Core::Conditions::Operators.for(field.type)).not_to be_empty, field.key }
    expect(Core::Conditions::Operators::TABLE.values.flat_map(&:values).uniq - %i[list text number numbers span days months date dates none]).to be_empty
  end

  it "knows a column for everything one can ask about" do
    asked = catalogue.for(:condition).reject { |field| %i[tags lists].include?(field.type) }

    expect(asked.select { |field| field.table.nil? || field.column.nil? }.map(&:key)).to eq([])
  end
end
