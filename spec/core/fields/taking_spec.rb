# frozen_string_literal: true

RSpec.describe Core::Fields::Taking do
  subject(:taking) { described_class.new(reference: ->(given) { {"Maren" => 1}[given] }) }

  let(:catalogue) { Core::Fields::Standard.catalogue }

  def field(type, **rest) = Core::Fields::Field.new(key: "person.x_some", label: "Some", type: type, uses: [], **rest)

  def take(field, given) = taking.take(field.is_a?(String) ? catalogue[field] : field, given)

  def refusal(field, given)
    take(field, given)
    nil
  rescue Invalid => error
    error
  end

  describe "#take" do
    it "is nil for nothing, whatever the type" do
      types = Core::Fields::Field::TYPES - %i[tags lists]

      expect(types.flat_map { |type| [nil, "", " \r\n "].map { |given| take(field(type), given) } }.uniq).to eq([nil])
      expect(take(field(:choices, choices: {"oak" => "Oak"}), [])).to be_nil
    end

    it "keeps text on one line and a long text on several" do
      expect(take("person.city", " Robin Hood's\r\nBay ")).to eq("Robin Hood's Bay")
      expect(take(field(:long_text), "one\n\ntwo\u0000 ")).to eq("one\n\ntwo")
    end

    it "bounds text as each column does" do
      expect(take("person.city", "x" * 120).size).to eq(120)
      expect(refusal("person.city", "x" * 121)).to have_attributes(
        code: :value_unclear,
        at: "person.city",
        message: /120 letters; this has 121/
      )
      expect(refusal("person.phone", "0" * 41)).to have_attributes(at: "person.phone")
      expect(refusal(field(:text, custom_id: 3), "x" * 201)).to have_attributes(message: /200 letters/)
      expect(refusal(field(:long_text), "x" * 10_001)).to have_attributes(message: /10000 letters/)
    end

    it "completes the address of a page, and takes none that could run" do
      expect(take(field(:link), "ternandfallow.example/a")).to eq("https://ternandfallow.example/a")
      expect(take(field(:link), "http://ternandfallow.example")).to eq("http://ternandfallow.example")
      expect(
        ["javascript:alert(1)", "a page", "ftp://a.example", "data:text/html,x"].map { |given| refusal(field(:link), given)&.at }.uniq
      ).to eq(["person.x_some"])
    end

    it "takes a choice by its key or by its words, in any case" do
      expect(["former_client", "Former client", "FORMER CLIENT"].map { |given| take("person.standing", given) }.uniq).to eq(
        ["former_client"]
      )
      expect(
refusal(
  "person.standing",
  "king"
).message
).to eq("Standing is not “king”; it is one of lead, client, former client, partner.")
    end

    it "takes several choices as a list or as one text, each once" do
      wood = field(:choices, choices: {"oak" => "Oak", "felt" => "Felt"})

      expect([take(wood, "oak; FELT"), take(wood, %w[oak Oak]), take(wood, "felt|oak")]).to eq([%w[oak felt], %w[oak], %w[felt oak]])
      expect(refusal(wood, "oak, ash")).to have_attributes(message: /not “ash”/)
    end

    it "understands yes and no in the words of files" do
      expect(["Ja", "X", "1", true, "on"].map { |given| take(field(:flag), given) }.uniq).to eq([true])
      expect(["nein", "0", "No", false].map { |given| take(field(:flag), given) }.uniq).to eq([false])
      expect(refusal(field(:flag), "perhaps").message).to eq("Some is yes or no; not “perhaps”.")
    end

    it "takes numbers to four places, and none too large to hold" do
      expect([take(field(:number), "2.5"), take(field(:number), 3), take(field(:number), "1.23456")]).to eq(
        [BigDecimal("2.5"), 3, BigDecimal("1.2346")]
      )
      expect([refusal(field(:number), "many"), refusal(field(:number), 10**15)].map(&:at).uniq).to eq(["person.x_some"])
    end

    it "takes money in pounds when typed and in pence when it is a whole number already" do
      expect([take(field(:money), "£1,200.50"), take(field(:money), 1250), take(field(:money), "0.005")]).to eq([120_050, 1250, 1])
      expect(%w[-5 lots].map { |given| refusal(field(:money), given)&.message }).to eq(
        ["“-5” is not an amount of money.", "“lots” is not an amount of money."]
      )
    end

    it "takes a day only when it can be told for certain" do
      expect([take(field(:date), "2026-05-12"), take(field(:date), Date.new(2026, 5, 12))].uniq).to eq([Date.new(2026, 5, 12)])
      expect(refusal(field(:date), "03/04/2026").message).to eq("“03/04/2026” is not a date that can be told for certain.")
    end

    it "takes a colleague by name, and says when there is none" do
      expect(take("person.owner", "Maren")).to eq(1)
      expect(refusal("person.owner", "Nobody").message).to eq("There is no colleague “Nobody”.")
    end

    it "cannot set what is held elsewhere" do
      expect(refusal("person.tags", "felt").message).to eq("Tag cannot be set like this.")
    end

    it "shows no more of a wrong value than can be read" do
      expect(refusal(field(:number), "n" * 500).message.size).to be < 100
    end
  end
end
