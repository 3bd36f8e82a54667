# frozen_string_literal: true

RSpec.describe Core::Importing::RowReading do
  def reading(*matching, habit: Core::Fields::Habit.plain, owners: {})
    taking = Core::Fields::Taking.new(habit: habit, reference: ->(given) { {"Maren Holt" => 1}[given] })
    described_class.new(matching, catalogue: Core::Fields::Standard.catalogue, taking: taking, owners: owners)
  end

  def read(matching, cells, **rest) = reading(*matching, **rest).read(cells)

  it "reads cells by field and leaves out the empty ones and those nobody wants" do
    row = read(["person.first_name", nil, "person.city", "person.company"], ["Ana", "size 9", "  ", "The Copper Ladle"])

    expect(row.to_a).to eq([{"person.first_name" => "Ana", "person.company" => "The Copper Ladle"}, nil, []])
  end

  it "reads the cells of a workbook that are numbers and days already" do
    expect(read(%w[person.first_name person.phone person.birthday], ["Ana", 1_632_960_101, Date.new(1980, 5, 12)]).values).to eq(
      "person.first_name" => "Ana",
      "person.phone" => "1632960101",
      "person.birthday" => Date.new(1980, 5, 12)
    )
  end

  it "reads several tags or lists in one cell, each once" do
    expect(read(["person.email", "person.tags"], ["a@x.example", "felt, press;felt | "]).values["person.tags"]).to eq(%w[felt press])
  end

  describe "addresses" do
    it "give a name to their own row alone, also when that row is refused" do
      reading = reading("person.email", "person.birthday", "person.company")
      expect(reading.read(["Ana Lark <ana@x.example>", "no day", nil]).problem).not_to be_nil
      expect(reading.read([nil, nil, "The Copper Ladle"]).values).to eq("person.company" => "The Copper Ladle")
    end

    it "are taken out of a link and of white space" do
      expect(read(["person.email"], ["mailto:ana@x.example"]).values).to eq("person.email" => "ana@x.example")
      expect(read(["person.email"], [" ana@x.example "]).values).to eq("person.email" => "ana@x.example")
    end

    it "that could not be written to refuse the row" do
      expect(
        ["ana", "ana@", "@x.example", "ana@x", "a b@x.example", "ana@x.example, bo", "Ana <ana>",
          "<a@x.example> b@x.example"].map do |cell|
          read(["person.email"], [cell]).problem
        end
      ).to all(end_with("does not look like an address."))
    end

    it "may be several, bare or with names: the first is in use, the others are further ones, and a name says who it is" do
      expect(read(["person.email"], ["ana@x.example; Bo@x.example, ana@X.example"]).values).to eq(
        "person.email" => "ana@x.example",
        "person.addresses" => ["Bo@x.example"]
      )
      expect(read(["person.email", "person.addresses"], ["a@x.example", "b@x.example\nc@x.example"]).values).to include(
        "person.addresses" => %w[b@x.example c@x.example]
      )
      expect(read(["person.email"], ['"van den Berg, Ana" <ana@x.example>; Bo <bo@x.example>']).values).to eq(
        "person.email" => "ana@x.example",
        "person.addresses" => ["bo@x.example"],
        "person.first_name" => "Ana",
        "person.last_name" => "van den Berg"
      )
      expect(read(["person.email", "person.last_name"], ["Ana Lark <ana@x.example>", "Wen"]).values).to eq(
        "person.email" => "ana@x.example",
        "person.last_name" => "Wen"
      )
    end

    it "with a line break within refuse the row, for it could add a header" do
      expect(read(["person.email"], ["ana@x.example\nBcc: all@x.example"]).problem).to eq("There is a line break in the address.")
    end
  end

  describe "whole names" do
    def split(text, order = nil)
      reading = described_class.new(
        ["person.name"],
        catalogue: Core::Fields::Standard.catalogue,
        taking: Core::Fields::Taking.new,
        name_order: order
      )
      reading.read([text]).then { |row| row.problem || row.values.values_at("person.title", "person.first_name", "person.last_name") }
    end

    it "are taken apart where they say themselves how, and in the order that was said" do
      expect(split("Smith, John")).to eq([nil, "John", "Smith"])
      expect(split("Dr. Lark")).to eq(["Dr.", nil, "Lark"])
      expect(split("Prof. Dr. Ana Maria van den Berg", "given_first")).to eq(["Prof. Dr.", "Ana Maria", "van den Berg"])
      expect(split("Wu Mei Lin", "family_first")).to eq([nil, "Mei Lin", "Wu"])
      expect(split("de la Cruz Ana", "family_first")).to eq([nil, "Ana", "de la Cruz"])
    end

    it "are never guessed at" do
      expect(split("Lark Ana")).to start_with("It is not said whether “Lark Ana” has the given")
    end
  end

  describe "numbers of a workbook" do
    let(:catalogue) do
      money = Core::Fields::Field.new(key: "person.x_fee", label: "Fee", type: :money, uses: %i[import])
      number = Core::Fields::Field.new(key: "person.x_seats", label: "Seats", type: :number, uses: %i[import])
      Core::Fields::Standard.catalogue.with([money, number])
    end

    def fee(cell, decimal: ".")
      taking = Core::Fields::Taking.new(habit: Core::Fields::Habit.new(decimal: decimal))
      row = described_class.new(%w[person.email person.x_fee], catalogue: catalogue, taking: taking).read(["a@x.example", cell])
      row.problem || row.values["person.x_fee"]
    end

    it "are pounds, whatever the file's decimal mark" do
      expect([fee(1250), fee(1250.5), fee(1250.5, decimal: ","), fee(0)]).to eq([125_000, 125_050, 125_050, 0])
    end

    it "written as text are read only where they can be told for certain" do
      expect([fee("1250"), fee("1,250.50", decimal: nil), fee("1.250,50", decimal: nil)]).to eq([125_000] + [125_050] * 2)
      expect([fee("1.234", decimal: nil), fee("1,234", decimal: nil)]).to all(end_with("is not an amount of money."))
      expect([fee("1.234", decimal: ","), fee("1.234")]).to eq([123_400, 123])
    end
  end

  describe "a value that is none of the choices" do
    it "is left out, and the nearest is named; the row comes in" do
      row = read(%w[person.email person.standing], ["a@x.example", "cliemt"])
      expect(row.to_a).to eq([{"person.email" => "a@x.example"}, nil, ["Standing is not “cliemt”; did you mean “client”?"]])
    end

    it "refuses the row where it might have been a no" do
      expect(read(%w[person.email person.consent], ["a@x.example", "nope"]).problem).to start_with("Consent is not “nope”")
    end
  end

  it "reads several notes, and lists and tags with marks within" do
    row = read(["person.email", "person.note", "person.note", "person.tags"], ["a@x.example", "Rang.", "Likes felt.", '"felt, grey"; oak'])
    expect(
row.values.slice(
  "person.note",
  "person.tags"
)
).to eq("person.note" => ["Rang.", "Likes felt."], "person.tags" => ["felt, grey", "oak"])
  end

  describe "colleagues" do
    it "are known by name" do
      expect(read(%w[person.email person.owner], ["a@x.example", "Maren Holt"]).values["person.owner"]).to eq(1)
    end

    it "nobody knows are gathered, to be asked about" do
      rows = reading("person.email", "person.owner")
      problems = ["Old Colleague", "Old Colleague", "Another"].map { |name| rows.read(["a@x.example", name]).problem }

      expect(problems.uniq).to eq(["There is no colleague “Old Colleague”.", "There is no colleague “Another”."])
      expect(rows.unknown_owners).to eq(["Old Colleague", "Another"])
    end

    it "may have been said to be somebody, or nobody" do
      rows = reading("person.email", "person.owner", owners: {"old colleague" => 2, "another" => nil})

      expect(rows.read(["a@x.example", "OLD Colleague"]).values["person.owner"]).to eq(2)
      expect(rows.read(["a@x.example", "Another"]).to_a).to eq([{"person.email" => "a@x.example"}, nil, []])
    end
  end

  describe "a row that cannot be taken in" do
    it "has neither name, company nor address" do
      expect(read(%w[person.city person.first_name], ["York", ""]).problem).to eq(
        "There is neither a name, a company nor an address in it."
      )
    end

    it "names a time zone that does not exist" do
      expect(read(%w[person.email person.time_zone], %w[a@x.example Middle/Earth]).problem).to eq("There is no time zone “Middle/Earth”.")
    end

    it "holds a NUL byte, as damaged files do" do
      expect(read(["person.city"], ["Yo\0rk"]).problem).to eq("There is a NUL byte in city; the file may be damaged.")
    end

    it "keeps what could be read before the fault" do
      expect(read(%w[person.first_name person.birthday], ["Ana", "03/04/1980"]).values).to eq("person.first_name" => "Ana")
    end
  end

  it "reads a day in the habit of its file" do
    expect(
      read(%w[person.first_name person.birthday], %w[Ana 03/04/1980], habit: Core::Fields::Habit.new(order: "dmy")).values[
        "person.birthday"
      ]
    ).to eq(Date.new(1980, 4, 3))
  end
end
