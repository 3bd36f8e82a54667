# frozen_string_literal: true

RSpec.describe Core::Letters::TypedFields do
  subject(:typed) { described_class.new(Core::Fields::Standard.catalogue) }

  # Text as it is, fields as [key, fallback].
  def pieces(text, **rest) =
    typed.split(text, **rest).map { |piece| piece.is_a?(Hash) ? piece["attrs"].values_at("field", "fallback") : piece }

  describe "#split" do
    it "finds fields among words, with and without a fallback" do
      expect(pieces("Dear {{first name|there}}, how is {{ city }}?")).to eq(
        ["Dear ", %w[person.first_name there], ", how is ", ["person.city", nil], "?"]
      )
    end

    it "leaves a text without any as it is" do
      expect([pieces("Dear you"), pieces("a {{ b"), pieces("")]).to eq([["Dear you"], ["a {{ b"], [""]])
    end

    it "keeps a name no field has as it was typed" do
      expect(pieces("{{shoe size}} {{city}}")).to eq(["{{shoe size}} ", ["person.city", nil]])
    end

    it "takes an empty fallback for none, and cuts one that is no word but a letter" do
      expect(pieces("{{city| }}")).to eq([["person.city", nil]])
      expect(pieces("{{city|#{"x" * 201}}}").first).to be_a(String)
      expect(pieces("{{city|#{"x" * 200}}}").first.last.size).to eq(200)
    end

    it "finds no field that cannot be merged" do
      expect(pieces("{{standing}}")).to eq(["{{standing}}"])
    end
  end

  describe "#split of what was pasted" do
    ["{{First name}}", "{First name}", "[First Name]", "«First name»", "<<First name>>", "%FIRST_NAME%", "${first_name}"].each do |text|
      it "reads #{text}" do
        expect(pieces("Dear #{text},", pasted: true)).to eq(["Dear ", ["person.first_name", nil], ","])
      end
    end

    it "leaves brackets that name nothing" do
      expect(pieces("as agreed [see below], 20 % off, {a} and 5 < 6", pasted: true)).to eq(
        ["as agreed [see below], 20 % off, {a} and 5 < 6"]
      )
    end

    it "takes other notations for text when they are typed" do
      expect(pieces("[First name]")).to eq(["[First name]"])
    end
  end

  describe ".names" do
    it "gives what stands between the braces" do
      expect(described_class.names("{{a}} {{ b |x}} [c]")).to eq(%w[a b])
    end
  end

  describe ".node" do
    it "keeps a form only if the field has it" do
      city = Core::Fields::Standard.catalogue["person.city"]

      expect(
        [described_class.node(city, nil, "upper"), described_class.node(city, nil, "weekday")].map { |node| node["attrs"]["form"] }
      ).to eq(["upper", nil])
    end
  end
end
