# frozen_string_literal: true

RSpec.describe Core::Fields::Habit do
  def date(text, order = nil) = described_class.new(order: order).date(text)

  it "reads dates that can be told for certain" do
    ["1980-05-12", "12 May 1980", "May 12, 1980", "12th may 1980", "1980-05-12T10:00"].each { |text| expect(date(text)).to eq(Date.new(1980, 5, 12)), text }
    expect(date("30 February 1980")).to be_nil
    expect(date("soon")).to be_nil
  end

  it "never guesses which of 03/04 is the month" do
    expect(date("03/04/2026")).to be_nil
    expect(date("03/04/2026", "dmy")).to eq(Date.new(2026, 4, 3))
    expect(date("03/04/2026", "mdy")).to eq(Date.new(2026, 3, 4))
    expect(date("3.4.26", "dmy")).to eq(Date.new(2026, 4, 3))
    expect(date("3.4.76", "dmy")).to eq(Date.new(1976, 4, 3))
    expect(described_class.orders_for(["03/04/2026", "05/06/2026"])).to eq(%w[dmy mdy])
    expect(described_class.orders_for(["03/04/2026", "25/06/2026"])).to eq(%w[dmy])
  end

  it "reads numbers in the file's own habit" do
    {["1,234.50", "."] => "1234.5", ["1.234,50", ","] => "1234.5", ["£12", "."] => "12", ["12 %", "."] => "12", ["-3", "."] => "-3"}.each do |(text, decimal), expected|
      expect(described_class.new(decimal: decimal).number(text)).to eq(BigDecimal(expected)), text
    end
    expect(described_class.new(decimal: ".").number("1.234,50")).to be_nil
    expect(described_class.new.number("12 o'clock")).to be_nil
  end
end

RSpec.describe Core::Fields::Taking do
  subject(:taking) { described_class.new(reference: ->(given) { {"Maren" => 1}[given] }) }

  let(:catalogue) { Core::Fields::Standard.catalogue }

  def field(type, **rest) = Core::Fields::Field.new(key: "person.x_some", label: "Some", type: type, uses: [], **rest)

  def take(field, given) = taking.take(field.is_a?(String) ? catalogue[field] : field, given)

  it "takes in each type as the record holds it" do
    expect(take(field(:number), "2.5")).to eq(BigDecimal("2.5"))
    expect(take(field(:money), "£1,200.50")).to eq(120_050)
    expect(take(field(:flag), "Ja")).to be(true)
    expect(take(field(:date), "2026-05-12")).to eq(Date.new(2026, 5, 12))
    expect(take(field(:link), "ternandfallow.example/a")).to eq("https://ternandfallow.example/a")
    expect(take(field(:choices, choices: {"oak" => "Oak", "felt" => "Felt"}), "oak; FELT")).to eq(%w[oak felt])
    expect(take("person.standing", "Former client")).to eq("former_client")
    expect(take("person.owner", "Maren")).to eq(1)
    expect(take("person.city", "  \r\n ")).to be_nil
  end

  it "says what is wrong, and of which field" do
    {field(:number) => "many", field(:money) => "-5", field(:flag) => "perhaps", field(:date) => "03/04/2026", field(:link) => "javascript:alert(1)",
     catalogue["person.standing"] => "king", catalogue["person.owner"] => "Nobody", catalogue["person.city"] => "x" * 121}.each do |asked, given|
      expect { take(asked, given) }.to raise_error(Invalid) { |error| expect(error.at).to eq(asked.key) }
    end
  end

  it "says back what it took in" do
    say = ->(asked, value) { Core::Fields::Saying.say(asked, value, names: {owners: {1 => "Maren Holt"}}) }

    expect(say.call(field(:money), 120_050)).to eq("£1,200.50")
    expect(say.call(field(:number), BigDecimal("2.50"))).to eq("2.5")
    expect(say.call(field(:tags), %w[a b c])).to eq("a, b and c")
    expect(say.call(catalogue["person.owner"], 1)).to eq("Maren Holt")
    expect(say.call(field(:flag), false)).to eq("no")
    expect(say.call(field(:text), nil)).to be_nil
  end
end

RSpec.describe Core::Names do
  it "puts names together as their owners do" do
    expect(described_class.full(title: "Dr", first_name: "Ana", last_name: "Lark")).to eq("Dr Ana Lark")
    expect(described_class.full(first_name: "雅", last_name: "林", name_order: "family_first")).to eq("林雅")
    expect(described_class.full(first_name: "Ảnh", last_name: "Đoàn", name_order: "family_first")).to eq("Đoàn Ảnh")
    expect(described_class.full(last_name: "Suharto")).to eq("Suharto")
    expect(described_class.full({})).to be_nil
  end
end

RSpec.describe Core::Calendar::Countries do
  it "guesses a zone from a country as people write it" do
    expect(["United Kingdom", "uk", "GB", "Scotland"].map { |words| described_class.zone(words) }.uniq).to eq(["Europe/London"])
    expect(described_class.zone("France")).to eq("Europe/Paris")
    expect(described_class.zone("USA")).to eq("America/New_York")
    expect([nil, "", "Middle Earth"].map { |words| described_class.zone(words) }).to eq([nil, nil, nil])
  end
end

RSpec.describe Core::Doubles do
  it "knows the spellings of one mailbox" do
    expect(["Ana.Lark+news@House.example", "analark@house.example"].map { |address| described_class.mailbox(address) }.uniq).to eq(["analark@house.example"])
    expect(described_class.mailbox(nil)).to be_nil
    expect(described_class.mailbox("+x@house.example")).to eq("+x@house.example")
  end
end

RSpec.describe Core::Importing::ColumnMatching do
  def match(headers, samples = headers.map { [] }, habits: {}) = described_class.new(Core::Fields::Standard.catalogue, habits: habits).match(headers, samples).map { |found| found["field"] }

  it "goes by name, in the words people use" do
    expect(match(["E-mail", "First Name", "Surname", "Organisation", "Town", "Date of Birth", "TAGS", "Shoe size"]))
      .to eq(["person.email", "person.first_name", "person.last_name", "person.company", "person.city", "person.birthday", "person.tags", nil])
  end

  it "goes by what stands in a column, when its name says nothing" do
    expect(match(%w[A B], [["a@x.example", "b@x.example"], ["01632 960 101", "01632 960 102"]])).to eq(%w[person.email person.phone])
  end

  it "goes by what was chosen last time, before all" do
    expect(match(["Surname", "Shoe size"], habits: {"surname" => "person.known_as", "shoe size" => nil})).to eq(["person.known_as", nil])
    expect(match(["Surname"], habits: {"surname" => "person.gone"})).to eq(["person.last_name"])
  end

  it "gives each field once" do
    expect(match(["E-mail", "Email address"])).to eq(["person.email", nil])
  end
end

RSpec.describe Core::Conditions::Explanation do
  it "says of each part whether it holds, and what the record says" do
    memory = Core::Conditions::InMemory.new(now: Time.utc(2026, 5, 12, 8), today: Date.new(2026, 5, 12))
    tree = Core::Conditions::Parser.new.parse!({"all" => [{"field" => "person.city", "is" => "one_of", "value" => ["York"]}, {"not" => {"activity" => "opened"}}, {"any" => [{"field" => "person.phone", "is" => "empty"}]},
      {"deals" => {"field" => "deal.value", "is" => "more_than", "value" => 100}}, {"membership" => "in"}]})
    part = described_class.new(memory: memory, sentence: Core::Conditions::Sentence.new).of(tree, {"person.city" => "Leeds", "events" => [{kind: "opened", at: Time.utc(2026, 5, 1)}], "deals" => [{"deal.value" => 50}]})

    expect(part.holds).to be(false)
    expect(part.parts.map { |one| [one.words, one.holds, one.actual] }).to eq([["is in York", false, "Leeds"], ["has not opened any letter", false, "once"], [nil, true, nil],
      ["has a deal that is worth more than £1", false, "0 of 1 deals"], ["is in any sequence", false, "never a member"]])
  end
end
