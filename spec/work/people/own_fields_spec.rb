# frozen_string_literal: true

RSpec.describe "a field of the firm's own", :processes do
  after do
    own = Records.db.schema(:people, reload: true).map(&:first).grep(/\Ax_(?:shoe|quick)/)
    TestDatabase.owner.open { |db| own.each { |name| db.drop_column(:people, name) } } if own.any?
    Records.db.schema(:people, reload: true)
  end

  it "is made once, however many are asked for at a time and however many clerks are at it" do
    fields = Array.new(8) { |n| Work::OwnField.make({label: "Quick #{n}", type: "text"}, moment: moment) }
    clerks = Array.new(3) { Work::Clerk.new("nowhere", TestDatabase.owner) }
    clerks.map { |clerk| Thread.new { Records::Patience.new.ride { clerk.finish(now) } } }.each(&:join)
    expect([Records::SetAside.select_map(:detail), fields.map { |field| field.refresh.made }.uniq]).to eq([[], [true]])
    expect(Records.db.schema(:people, reload: true).map(&:first)).to include(*fields.map(&:column))
  end

  it "works everywhere at once, is renamed, and is retired without breaking anything" do
    field = Work::OwnField.make({label: "Shoe size", type: "number"}, moment: moment)
    Work::MakeColumns.new(TestDatabase.owner).call(field)
    person = make_person
    change_person(person, {"person.x_shoe_size" => "38.5"})
    condition = {"field" => "person.x_shoe_size", "is" => "more_than", "value" => 38}
    filter = Records::SavedFilter.create(name: "Large", condition: condition, created_at: now, updated_at: now)
    letter = make_letter(body: "Hello")
    letter.update(body: Core::Letters::Document.from_text("Size {{shoe size}}", catalogue: Records::FieldCatalogue.current).to_h)
    people = -> { Records::Person.where(moment.sql.read(Records::FieldCatalogue.parser.parse!(condition))).count }

    expect([people.call, letter.merge.call(moment.facts.for_letter(person.refresh, nil)).blocks.first.runs.map(&:text).join]).to eq(
      [1, "Size 38.5"]
    )
    expect(
      Work::ExportPeople
        .new(Records::Person.kept, format: "csv", moment: moment, columns: ["person.x_shoe_size"])
        .file
        .read
        .force_encoding("UTF-8")
    ).to end_with("Shoe size\r\n38.5\r\n")
    expect(Work::WhereUsed.new.field(field.to_field)).to eq([{kind: "filter", id: filter.id, name: "Large"},
      {kind: "letter", id: letter.id, name: letter.name}])

    Work::OwnField.change(field, {label: "Foot length", retired: true}, version: field.version, moment: moment)
    expect([people.call, Web::FilterJson.write(filter)[:sentence]]).to eq([1, "everyone whose “Foot length” is more than 38"])
    expect(Records::FieldCatalogue.current.for(:condition).map(&:key)).not_to include("person.x_shoe_size")
    expect { Work::OwnField.make({label: "foot LENGTH", type: "text"}, moment: moment) }.to raise_error(Invalid, /already a field/)
    expect { Work::OwnField.make({label: "Colour", type: "choice", choices: ["one"]}, moment: moment) }.to raise_error(
      Invalid,
      /two choices/
    )
  end
end
