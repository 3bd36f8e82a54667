# frozen_string_literal: true

RSpec.describe Core::Letters::Values do
  describe ".clean" do
    {
      "  Ana \t" => "Ana",
      "Ana\r\nBcc: x@y.example" => "Ana Bcc: x@y.example",
      "\u202eAna\u2066" => "Ana",
      "\ufeffAna" => "Ana",
      "Ana\u2028Lark" => "Ana Lark",
      "Ana\u0000\u0007Lark" => "Ana Lark",
      "Łucja 🪶" => "Łucja 🪶",
      "An\xffa" => "Ana",
      42 => "42"
    }.each do |given, expected|
      it "makes #{given.inspect} one line" do
        expect(described_class.clean(given)).to eq(expected)
      end
    end

    it "is nil when nothing is left to say" do
      expect([nil, "", " \n ", "\xff", "\u202e"].map { |given| described_class.clean(given) }.uniq).to eq([nil])
    end

    it "never lets a line break through, and changes nothing the second time" do
      PropCheck.forall(PropCheck::Generators.string).with_config(n_runs: 300) do |text|
        once = described_class.clean(text)
        raise "a break in #{once.inspect}" if once&.match?(/[\r\n\u2028\u2029]/)
        raise "#{text.inspect} changes on" unless once.nil? || described_class.clean(once) == once
      end
    end
  end
end

RSpec.describe Core::Letters::Summary do
  def summary(node) = described_class.of(node, Core::Fields::Standard.catalogue)

  it "names fields, and keeps the words of a paragraph together" do
    expect(summary(para("Dear ", chip("person.first_name"), ","))).to eq("Dear [first name],")
    expect(summary(para("one", {"type" => "hardBreak"}, "two"))).to eq("one two")
  end

  it "keeps the blocks within another apart" do
    expect(summary({"type" => "quote", "content" => [para("one"), para(""), para("two")]})).to eq("one two")
  end

  it "says of a picture what it shows, and the key of a field that is gone" do
    expect(summary({"type" => "picture", "attrs" => {"alt" => words("A room")}})).to eq("A room")
    expect(summary(para(chip("person.x_gone")))).to eq("[person.x_gone]")
  end
end

RSpec.describe Core::Letters::AboutDeal do
  let(:deal) { Struct.new(:id, :stage, :updated_at, :created_at) }

  def about(*deals) = described_class.of(deals.map { |given| deal.new(*given) }, open_stages: %w[measured proposal])&.id

  it "is the open one that was last worked on" do
    expect(about([1, "proposal", Time.utc(2026, 5, 1)], [2, "measured", Time.utc(2026, 5, 3)], [3, "lost", Time.utc(2026, 5, 9)])).to eq(2)
  end

  it "is the last one where none is open" do
    expect(about([1, "signed", Time.utc(2026, 5, 3)], [2, "lost", nil, Time.utc(2026, 5, 1)])).to eq(1)
  end

  it "is none of none" do
    expect(about).to be_nil
  end
end

RSpec.describe Core::Letters::Lookups do
  def needed(*blocks) = described_class.needed([parsed(*blocks)]).map(&:name)

  it "asks nobody for a letter that needs nothing" do
    expect(needed(para("Dear ", chip("person.first_name")))).to eq([])
  end

  it "asks for what is merged, and for what a passage for some asks" do
    expect(needed(para(chip("lookup.weather")))).to eq(["weather"])
    expect(needed(shown_if({"all" => [{"not" => {"field" => "lookup.rain", "is" => "yes"}}]}, [para("dry")]))).to eq(["weather"])
  end

  it "knows its fields, and they can be merged" do
    fields = described_class::ALL.flat_map { |service| [service.by, *service.answers.keys] }

    expect(fields.map { |key| Core::Fields::Standard.catalogue[key]&.for?(:merge) }.uniq).to eq([true])
  end
end

RSpec.describe Core::Letters::Placeholders do
  it "leaves the fields of a letter as one could type them, and marks what is for some" do
    body =
      parsed(
        para("Dear ", chip("person.first_name", "there"), " in ", chip("person.city")),
        shown_if({"field" => "person.city", "is" => "empty"}, [para("first")], [para("second")]),
        {"type" => "button", "attrs" => {"href" => [*words("https://a.example/?c="), chip("company.name")]}, "content" => words("Go")}
      )
    parts = {subject: Core::Letters::Document.from_text("For {{first name}}"), preview: Core::Letters::Document.from_text("")}

    merged = described_class.new(say: ->(_) { "everyone who has no city" }, **parts, body: body).call
    expect(Core::Letters::TextWriter.write(merged)).to eq(
      "Dear {{first name|there}} in {{city}}\n\n[Only for everyone who has no city:]\n\nfirst\n\n[For everybody else:]\n\nsecond\n\n" \
        "[For everybody again:]\n\nGo: https://a.example/?c={{company}}\n"
    )
  end
end
