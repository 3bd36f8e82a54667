# frozen_string_literal: true

RSpec.describe Core::Conditions::Explanation do
  let(:memory) { Core::Conditions::InMemory.new(now: Time.utc(2026, 5, 12, 8), today: Date.new(2026, 5, 12)) }

  def explain(json, record)
    tree = Core::Conditions::Parser.new.parse!(json)
    described_class.new(memory: memory, sentence: Core::Conditions::Sentence.new).of(tree, record)
  end

  def actual(json, record) = explain(json, record).actual

  let(:york) { {"field" => "person.city", "is" => "one_of", "value" => ["York"]} }

  it "says of each part whether it holds, and what the record says" do
    part = explain(
      {"all" => [york, {"not" => {"activity" => "opened"}}, {"any" => [{"field" => "person.phone", "is" => "empty"}]}]},
      {"person.city" => "Leeds", "events" => [{kind: "opened", at: Time.utc(2026, 5, 1)}]}
    )

    expect([part.holds, part.joined_by]).to eq([false, "and"])
    expect(part.parts.map { |one| [one.words, one.holds, one.actual] })
      .to eq([["is in York", false, "Leeds"], ["has not opened any letter", false, "once"], [nil, true, nil]])
  end

  it "says of an exception what the record says, and that it holds when it does not apply" do
    part = explain({"not" => york}, {"person.city" => "Leeds"})

    expect([part.words, part.holds, part.actual, part.parts]).to eq(["is not in York", true, "Leeds", []])
  end

  it "keeps the parts of a negated group" do
    part = explain({"not" => {"any" => [york]}}, {"person.city" => "York"})

    expect([part.holds, part.joined_by, part.parts.map(&:joined_by)]).to eq([false, "not", ["or"]])
  end

  describe "what the record says" do
    it "says when nothing is known" do
      expect([{}, {"person.city" => " "}].map { |record| actual(york, record) }.uniq).to eq(["nothing is known"])
      expect(actual({"field" => "person.tags", "is" => "empty"}, {"person.tags" => []})).to eq("nothing is known")
    end

    it "counts how often something happened" do
      event = {kind: "opened", at: Time.utc(2026, 5, 1)}

      expect([0, 1, 3].map { |times| actual({"activity" => "opened"}, {"events" => [event] * times}) }).to eq(["never", "once", "3 times"])
    end

    it "tells of places in sequences" do
      record = {
        "memberships" => [{sequence_id: 1, state: "active", status: "written"}, {sequence_id: 2, state: "left", status: "answered"}]
      }

      expect(actual({"membership" => "in", "sequence_id" => 1}, record)).to eq("in it, status written")
      expect(actual({"membership" => "in"}, record)).to eq("in it, status written; was in it, status answered")
      expect(actual({"membership" => "in", "sequence_id" => 3}, record)).to eq("never a member")
    end

    it "tells how many deals fit" do
      expect(
        actual({"deals" => {"field" => "deal.value", "is" => "more_than", "value" => 100}}, {"deals" => [{"deal.value" => 50}]})
      ).to eq("0 of 1 deals")
    end
  end
end
