# frozen_string_literal: true

RSpec.describe Core::Fold do
  describe ".call" do
    it "forgives case, accents and stray white space" do
      expect(described_class.call("  Zoë  MÅNELØKKE\t")).to eq("zoe maneløkke")
      expect(described_class.call("STRASSE")).to eq(described_class.call("straße"))
    end

    it "is nil for nothing" do
      expect([nil, "", " \n "].map { |text| described_class.call(text) }).to eq([nil, nil, nil])
    end

    it "changes nothing the second time" do
      PropCheck.forall(PropCheck::Generators.string).with_config(n_runs: 300) do |text|
        once = described_class.call(text)
        raise "#{text.inspect} folds on" unless described_class.call(once) == once
      end
    end
  end
end

RSpec.describe Core::Names do
  describe ".full" do
    it "puts the given name first unless they do otherwise" do
      expect(described_class.full(title: "Dr", first_name: "Ana", last_name: "Lark")).to eq("Dr Ana Lark")
      expect(described_class.full(first_name: "Ảnh", last_name: "Đoàn", name_order: "family_first")).to eq("Đoàn Ảnh")
    end

    it "writes no space where the script has none" do
      expect(described_class.full(first_name: "雅", last_name: "林", name_order: "family_first")).to eq("林雅")
      expect(described_class.full(first_name: "Ya", last_name: "林", name_order: "family_first")).to eq("林 Ya")
    end

    it "is content with one name, and with none" do
      expect(described_class.full(last_name: "Suharto")).to eq("Suharto")
      expect(described_class.full({})).to be_nil
    end
  end

  describe ".called" do
    it "is what they like to be called, or else the first name" do
      expect([{known_as: "Annie", first_name: "Ana"}, {first_name: "Ana"}, {}].map { |parts| described_class.called(parts) }).to eq(
        ["Annie", "Ana", nil]
      )
    end
  end
end

RSpec.describe Core::Doubles do
  describe ".mailbox" do
    it "knows the spellings of one mailbox" do
      expect(
        ["Ana.Lark+news@House.example", "analark@house.example", " ANALARK@house.example"].map do |address|
          described_class.mailbox(address)
        end
          .uniq
      ).to eq(["analark@house.example"])
    end

    it "keeps apart what only looks alike" do
      expect(described_class.mailbox("ana@house.example")).not_to eq(described_class.mailbox("ana@home.example"))
    end

    it "makes no mailbox of nothing" do
      expect(["", nil, "ana"].map { |address| described_class.mailbox(address) }).to eq([nil, nil, nil])
      expect(described_class.mailbox("+x@house.example")).to eq("+x@house.example")
    end
  end
end

RSpec.describe Core::Address do
  it "takes what could be delivered" do
    expect(%w[ana@x.example ana.lark+news@mail.x.example o'brien@x.example a..b@x.example ana@bücher.example]).to all(
      match(described_class::PATTERN)
    )
  end

  it "takes nothing that would break a header or reach two people" do
    [
      "ana",
      "ana@x",
      "ana@x.example\r\nBcc: b@x.example",
      "a@x.example,b@x.example",
      "a@b@x.example",
      "<a@x.example>",
      "a @x.example",
      "#{"x" * 65}@x.example",
      "a@x.e",
      "mailto:x@y.example",
      "a[b@x.example",
      "a]b@x.example",
      "a\\b@x.example",
      "a:b@x.example",
      "a(b)@x.example",
      "a@x..example",
      "a@-x.example",
      "a@1.2.3.4",
      "josé@x.example"
    ].each { |text| expect(text).not_to match(described_class::PATTERN), text }
  end
end
