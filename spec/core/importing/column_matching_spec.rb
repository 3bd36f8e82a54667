# frozen_string_literal: true

RSpec.describe Core::Importing::ColumnMatching do
  def found(headers, samples = headers.map { [] }, habits: {}) =
    described_class.new(Core::Fields::Standard.catalogue, habits: habits).match(headers, samples)

  def match(...) = found(...).map { |one| one["field"] }

  it "goes by name, in the words people use" do
    expect(match(["E-mail", "First Name", "Surname", "Organisation", "Town", "Date of Birth", "TAGS", "Shoe size"])).to eq(
      ["person.email", "person.first_name", "person.last_name", "person.company", "person.city", "person.birthday", "person.tags", nil]
    )
  end

  it "reads names in other languages, and with marks around them" do
    expect(match(["Vorname", "Nachname", "Ort", "prénom"])).to eq(["person.first_name", "person.last_name", "person.city", nil])
    expect(match(["e_mail_address", "(Phone)", "* Company:"])).to eq(["person.email", "person.phone", "person.company"])
  end

  it "takes the label of a field of one's own before other people's words" do
    own = Core::Fields::Field.new(key: "person.x_type", label: "Type", type: :text, uses: %i[import])
    matching = described_class.new(Core::Fields::Standard.catalogue.with([own]))

    expect(matching.match(["Type"], [[]]).first["field"]).to eq("person.x_type")
  end

  describe "what stands in a column" do
    it "tells addresses and phones when the name says nothing" do
      expect(match(%w[A B], [["a@x.example", "b@x.example"], ["01632 960 101", "01632 960 102"]])).to eq(%w[person.email person.phone])
    end

    it "needs most of the values to look like it" do
      expect(match(["A"], [["a@x.example", "none", "none"]])).to eq([nil])
      expect(match(["A"], [["a@x.example", "b@x.example", "c@x.example", "d@x.example", "none"]])).to eq(["person.email"])
      expect(match(["A"], [["a@x.example"]])).to eq([nil])
    end

    it "takes neither days nor bare numbers for phones" do
      expect(match(%w[A B], [["2026-05-12", "2026-05-13"], %w[12345678 23456789]])).to eq([nil, nil])
    end
  end

  describe "what was chosen last time" do
    it "goes before all, also for a column that was left out" do
      expect(match(["Surname", "E-mail"], habits: {"surname" => "person.known_as", "e-mail" => nil})).to eq(["person.known_as", nil])
    end

    it "is forgotten once the field is gone" do
      expect(match(["Surname"], habits: {"surname" => "person.gone"})).to eq(["person.last_name"])
    end
  end

  it "gives each field once, and says by what it went" do
    expect(found(["E-mail", "Email address", "Known"], [[], [], []], habits: {"known" => "person.known_as"}))
      .to eq([{"field" => "person.email", "by" => "name"}, {"field" => nil, "by" => nil}, {"field" => "person.known_as", "by" => "habit"}])
  end
end
