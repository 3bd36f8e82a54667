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
    {
      "German" => %w[Vorname Name Geburtsdatum Handy Telefonnummer Firma E-Mail-Adresse Notizen],
      "French" => ["Prénom", "Nom", "Date de naissance", "Portable", "Téléphone", "Société", "Courriel", "Remarques"],
      "Spanish" => ["Nombre", "Apellidos", "Fecha de nacimiento", "Móvil", "Teléfono", "Empresa", "Correo electrónico", "Notas"],
      "Italian" => ["Nome di battesimo", "Cognome", "Data di nascita", "Cellulare", "Telefono", "Azienda", "Posta elettronica", "Note"],
      "Dutch" => %w[Voornaam Achternaam Geboortedatum Mobiel Telefoonnummer Bedrijf E-mailadres Opmerkingen],
      "Portuguese" => ["Primeiro nome", "Sobrenome", "Data de nascimento", "Telemóvel", "Telefone", "Empresa", "Endereço de e-mail",
        "Observações"],
      "Polish" => ["Imię", "Nazwisko", "Data urodzenia", "Telefon komórkowy", "Numer telefonu", "Firma", "Adres e-mail", "Uwagi"]
    }.each do |language, headers|
      expect(match(headers)).to eq(
        %w[person.first_name person.last_name person.birthday person.mobile person.phone person.company person.email person.note]
      ),
        language
    end
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

    it "goes before a name that says something else, and leaves further ones to further addresses" do
      emails = ->(letter) { Array.new(3) { |n| "#{letter}#{n}@x.example" } }
      expect(match(["Kontakt", "Name"], [emails.call("a"), ["Ana Lark", "Bo Wen"]])).to eq(%w[person.email person.name])
      expect(match(["B", "E-Mail-Adresse"], [emails.call("b"), [*emails.call("a"), "kaputt"]])).to eq(%w[person.addresses person.email])
    end

    it "tells a whole name from a family name" do
      expect(match(%w[Name], [["Ana Lark", "Wen, Bo"]])).to eq(["person.name"])
      expect(match(%w[Name], [%w[Lark Wen]])).to eq(["person.last_name"])
      expect(match(%w[Name Vorname], [["van Dyk", "de la Cruz"], %w[Ana Bo]])).to eq(%w[person.last_name person.first_name])
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
