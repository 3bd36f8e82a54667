# frozen_string_literal: true

RSpec.describe Core::Importing::Comparison do
  describe ".changes" do
    it "gives old and new of what differs" do
      expect(
        described_class.changes(
          {"person.city" => "Hull", "person.region" => "Yorkshire"},
          {"person.city" => "York", "person.region" => "Yorkshire"}
        )
      ).to eq("person.city" => %w[York Hull])
    end

    it "sees white space as the same, a mended accent or case as a change" do
      expect(described_class.changes({"person.first_name" => "Zoe "}, {"person.first_name" => "Zoe"})).to eq({})
      expect(described_class.changes({"person.first_name" => "Zoë"}, {"person.first_name" => "Zoe"})).to eq(
        "person.first_name" => %w[Zoe Zoë]
      )
    end

    it "adds to tags and lists and takes nothing from them" do
      expect(described_class.changes({"person.tags" => %w[Press felt]}, {"person.tags" => %w[press oak]})).to eq(
        "person.tags" => [[], ["felt"]]
      )
      expect(described_class.changes({"person.tags" => ["PRESS"]}, {"person.tags" => ["press"]})).to eq({})
      expect(described_class.changes({"person.lists" => ["Spring fair"]}, {})).to eq("person.lists" => [[], ["Spring fair"]])
    end
  end

  it "lets no file turn round a no" do
    row = {"person.consent" => "yes", "person.consent_how" => "a form", "person.city" => "York"}
    expect(described_class.changes(row, {"person.consent" => "no"})).to eq("person.city" => [nil, "York"])
  end
end
