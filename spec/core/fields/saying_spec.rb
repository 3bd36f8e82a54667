# frozen_string_literal: true

RSpec.describe Core::Fields::Saying do
  let(:catalogue) { Core::Fields::Standard.catalogue }

  def field(type, **rest) = Core::Fields::Field.new(key: "person.x_some", label: "Some", type: type, uses: [], **rest)

  def say(field, value, **names) = described_class.say(field.is_a?(String) ? catalogue[field] : field, value, names: names)

  describe ".say" do
    it "says nothing of nothing" do
      expect([say(field(:text), nil), say(field(:tags), [])]).to eq([nil, nil])
    end

    it "says no as well as yes" do
      expect([true, false].map { |flag| say(field(:flag), flag) }).to eq(%w[yes no])
    end

    it "says choices in their words, and one there no longer is by its key" do
      expect([say("person.standing", "former_client"), say("person.standing", "king")]).to eq(["former client", "king"])
      expect(say(field(:choices, choices: {"oak" => "Oak"}), %w[oak ash])).to eq("Oak and ash")
    end

    it "lists several words as people do" do
      expect([%w[a], %w[a b], %w[a b c]].map { |tags| say(field(:tags), tags) }).to eq(["a", "a and b", "a, b and c"])
    end

    it "says colleagues and lists by name, and by number once they are gone" do
      expect([say("person.owner", 1, owners: {1 => "Maren Holt"}), say("person.owner", 2)]).to eq(["Maren Holt", "colleague 2"])
      expect(say("person.lists", [4, 5], lists: {4 => "Spring fair"})).to eq("Spring fair and list 5")
    end

    it "leaves days to be written by whoever shows them" do
      expect(say("person.birthday", Date.new(1980, 5, 12))).to eq(Date.new(1980, 5, 12))
    end
  end

  describe ".money" do
    it "writes pence only when there are some" do
      expect([0, 5, 120_000, 120_050, 123_456_789].map { |pence| described_class.money(pence) }).to eq(
        %w[£0 £0.05 £1,200 £1,200.50 £1,234,567.89]
      )
    end
  end

  describe ".number" do
    it "writes no fraction that says nothing" do
      expect([BigDecimal("2.50"), 3, 3.0, BigDecimal("0.0001"), 10**12].map { |number| described_class.number(number) }).to eq(
        %w[2.5 3 3 0.0001 1000000000000]
      )
    end
  end
end

RSpec.describe Core::Fields::GoingWith do
  let(:today) { Date.new(2026, 5, 12) }

  describe ".add" do
    it "notes the day when the standing changes" do
      expect(described_class.add({"person.standing" => "client"}, today)).to eq(
        "person.standing" => "client",
        "person.standing_since" => today
      )
    end

    it "notes the day of consent, and forgets how the former one came" do
      expect(described_class.add({"person.consent" => "no"}, today)).to eq(
        "person.consent" => "no",
        "person.consent_on" => today,
        "person.consent_how" => nil
      )
    end

    it "keeps what is said in the same breath" do
      said = {"person.consent" => "yes", "person.consent_on" => Date.new(2026, 1, 1), "person.consent_how" => "at the fair"}

      expect(described_class.add(said, today)).to eq(said)
    end

    it "adds nothing to anything else" do
      expect(described_class.add({"person.city" => "York"}, today)).to eq("person.city" => "York")
    end
  end

  describe ".only?" do
    it "tells whether nothing changes but what goes with something" do
      expect(
        [{"person.consent_how" => "x"}, {"person.consent_how" => "x", "person.city" => "York"}].map do |changed|
          described_class.only?(changed)
        end
      ).to eq([true, false])
    end
  end
end
