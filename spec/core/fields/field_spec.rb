# frozen_string_literal: true

RSpec.describe Core::Fields::Field do
  def field(key = "person.x_room", label: "Room", type: :text, uses: %i[condition merge], **rest) =
    described_class.new(key: key, label: label, type: type, uses: uses, **rest)

  it "knows whose it is and what it is called there" do
    expect(field("company.x_room")).to have_attributes(subject: "company", name: "x_room")
  end

  it "refuses a type nobody knows" do
    expect { field(type: :colour) }.to raise_error(ArgumentError, /:colour/)
  end

  describe ".within_sentence" do
    it "begins small, unless the word is a sign of its own" do
      expect(["Shoe size", "VAT number", "city", "É-mail"].map { |label| described_class.within_sentence(label) }).to eq(
        ["shoe size", "VAT number", "city", "É-mail"]
      )
    end
  end

  describe "#phrase" do
    it "begins a sentence with the label unless it is given" do
      expect([field.phrase, field(phrase: "who sits in").phrase]).to eq(["whose room is", "who sits in"])
    end
  end

  describe "#compared_column" do
    it "is the folded one for text, the column itself for all else" do
      expect([field(column: :room).compared_column, field(type: :date, column: :on).compared_column]).to eq(%i[room_fold on])
    end
  end

  describe "#sorted?" do
    it "needs a column, a type that has an order, and not to be told otherwise" do
      expect(field(column: :room)).to be_sorted
      expect(
        [field, field(column: :room, sorted: false), field(type: :tags, column: :room), field(type: :long_text, column: :room)]
      ).to all(satisfy { |one| !one.sorted? })
    end
  end

  it "tells the screens all they need of it" do
    told = field(type: :choice, choices: {"oak" => "Oak"}, custom_id: 3).to_h

    expect(told).to include(
      key: "person.x_room",
      label: "Room",
      type: "choice",
      subject: "person",
      custom_id: 3,
      retired: false,
      choices: [{value: "oak", words: "Oak"}]
    )
    expect(told[:forms].map { |form| form[:form] }).to eq(Core::Letters::Forms.for(field(type: :choice)))
  end
end
