# frozen_string_literal: true

RSpec.describe Core::Importing::RowReading do
  def reading(*matching, habit: Core::Fields::Habit.plain, owners: {})
    taking = Core::Fields::Taking.new(habit: habit, reference: ->(given) { {"Maren Holt" => 1}[given] })
    described_class.new(matching, catalogue: Core::Fields::Standard.catalogue, taking: taking, owners: owners)
  end

  def read(matching, cells, **rest) = reading(*matching, **rest).read(cells)

  it "reads cells by field and leaves out the empty ones and those nobody wants" do
    row = read(["person.first_name", nil, "person.city", "person.company"], ["Ana", "size 9", "  ", "The Copper Ladle"])

    expect(row.to_a).to eq([{"person.first_name" => "Ana", "person.company" => "The Copper Ladle"}, nil])
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
    it "are taken out of a link and of white space" do
      expect(read(["person.email"], ["mailto:ana@x.example"]).values).to eq("person.email" => "ana@x.example")
      expect(read(["person.email"], [" ana@x.example "]).values).to eq("person.email" => "ana@x.example")
    end

    it "that could not be written to refuse the row" do
      expect(
        ["ana", "ana@", "@x.example", "ana@x", "a b@x.example", "ana@x.example, bo@x.example"].map do |cell|
          read(["person.email"], [cell]).problem
        end
      ).to all(end_with("does not look like an address."))
    end

    it "with a line break within refuse the row, for it could add a header" do
      expect(read(["person.email"], ["ana@x.example\nBcc: all@x.example"]).problem).to eq("There is a line break in the address.")
    end
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
      expect(rows.read(["a@x.example", "Another"]).to_a).to eq([{"person.email" => "a@x.example"}, nil])
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
