# frozen_string_literal: true

RSpec.describe "bringing in a file" do
  include_context "with files that are brought in"

  it "makes records with company, tags, dates and numbers in the file's own habit" do
    import =
      bring(
        "First name,Surname,E-mail,Organisation,Tags,Date of birth\nZoë,Lark,zoe@oyster.example,The Oyster Shed,\"press, Trade " \
        "evening\",25/03/1980\n"
      )

    expect(import.counts).to eq("new" => 1)
    made = person("zoe@oyster.example")
    expect(made.values).to include(
      first_name: "Zoë",
      last_name_fold: "lark",
      birthday: Date.new(1980, 3, 25),
      standing: "lead",
      added_on: Date.new(2026, 5, 12)
    )
    expect([made.company.name, made.tags.map(&:name).sort]).to eq(["The Oyster Shed", ["Trade evening", "press"]])
    expect(Records::Person.kept.with_words("oyster zoe").select_map(:id)).to eq([made.id])
    expect(Records::Event.where(person_id: made.id).select_map(:kind)).to eq(["imported"])
  end

  it "writes nothing before the word is given, and shows field by field what would change" do
    known = make_person(email: "ana@oyster.example", city: "York", last_name: "Lark")
    import = check(receive("Email,Town,Surname\nANA@oyster.example,Hull,Lark\nnew@oyster.example,Leeds,Reyes\nno address,Leeds,Moraine\n"))

    expect(import.counts).to eq("update" => 1, "new" => 1, "refused" => 1)
    expect(rows(import, "update").first).to include(
      person_id: known.id,
      changes: [{field: "person.city", label: "City", from: "York", to: "Hull"}]
    )
    expect(rows(import, "refused").first[:reason]).to eq("“no address” does not look like an address.")
    expect([Records::Person.count, known.refresh.city]).to eq([1, "York"])

    take(import)
    expect([Records::Person.count, known.refresh.city, known.version]).to eq([2, "Hull", 2])
  end

  it "shows the values of rows as records show them: money, numbers, choices, yes or no, and colleagues by name", :own_fields do
    make_own_fields
    make_person(email: "ana@oyster.example", standing: "lead")
    file = receive("Email,Standing,Owner,Sum,Height,Note\nana@oyster.example,Former client,#{maren.name},\"1,234.50\",2.50,yes\n")
    names = %w[email standing owner x_budget x_height do_not_mail]
    import = check(file, matching: names.map { |name| "person.#{name}" })
    row = rows(import, "update").first
    said = ["former client", maren.name, "£1,234.50", "2.5", "yes"]
    expect([row[:values].drop(1).map { |one| one[:value] }, row[:changes].map { |one| one[:to] }]).to eq([said, said])
  end

  it "tells what is the same from what may be a double, and does with each kind as chosen" do
    ladle = make_company("The Copper Ladle")
    make_person(email: "ana@ladle.example", first_name: "Ana", last_name: "Lark", city: "York")
    make_person(email: "bram@ladle.example", first_name: "Bram", last_name: "Oduya", company_id: ladle.id)
    make_person(email: "wen@ladle.example", last_name: "Wen", phone: "+44 1632 960 115")
    text =
      "Email,First name,Surname,Company,Phone\nana@ladle.example,Ana,Lark,,\nbram@home.example,bram,ODUYA,the copper " \
      "ladle,\n,Wu,Wen,,(01632) 960115\n"
    import = check(receive(text))

    expect(import.counts).to eq("same" => 1, "doubtful" => 2)
    expect(rows(import, "doubtful").map { |row| row[:reason] }).to eq(
      ["Same name and company as another record.", "Same phone as another record."]
    )
    take(import)
    expect(Records::Person.count).to eq(3)
    expect(Work::RefusedRows.file(import).read).to include("Same phone as another record.")
    expect { bring(text, {"doubtful" => "new"}, again: true) }.to change(Records::Person, :count).by(2)
  end

  it "only fills what is empty, when that is what is wanted, and never turns a no round" do
    known = make_person(email: "ana@ladle.example", city: "York", job_title: nil, consent: "no")
    bring("Email,Town,Position,Consent\nana@ladle.example,Hull,Owner,yes\n", {"update" => "fill"})

    expect(known.refresh.values).to include(city: "York", job_title: "Owner", consent: "no")
  end

  it "dates a standing and a consent that a file changes, and nothing that it does not" do
    changed, same =
      %w[ana bo].map do |name|
        make_person(
          email: "#{name}@ladle.example",
          standing: (name == "ana") ? "lead" : "client",
          standing_since: Date.new(2025, 1, 1),
          consent: "unknown"
        )
      end
    bring("Email,Standing,Consent\nana@ladle.example,client,yes\nbo@ladle.example,client,unknown\n")

    expect(changed.refresh).to have_attributes(standing_since: Date.new(2026, 5, 12), consent_on: Date.new(2026, 5, 12))
    expect(same.refresh).to have_attributes(standing_since: Date.new(2025, 1, 1), version: 1)
  end

  it "puts tags and lists on everybody in the file, those who were the same among them" do
    known = make_person(email: "ana@ladle.example", city: "York")
    bring("Email,Town\nana@ladle.example,York\nbo@ladle.example,York\n", {"tags" => ["spring fair"], "lists" => ["Fair 2026"]})

    list = Records::List.first(name: "Fair 2026")
    expect(list.people.map(&:email)).to contain_exactly("ana@ladle.example", "bo@ladle.example")
    expect(known.refresh.tags.map(&:name)).to eq(["spring fair"])
  end

  it "asks how dates are written where it cannot know, and never guesses" do
    import = receive("Email,Date of birth\na@x.example,03/04/1980\nb@x.example,05/06/1981\n")

    expect(import.reading["asks"]).to eq("order" => %w[dmy mdy])
    expect { check(import) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:order_unclear) }
    import = receiving.read_again(import.refresh, {"order" => "mdy"}, version: import.version)
    take(check(import))
    expect(person("a@x.example").birthday).to eq(Date.new(1980, 3, 4))
  end

  it "asks how numbers are written and which name comes first where it cannot know, and settles what is clear", :own_fields do
    make_own_fields
    unclear = receive("Email,Height,Name\na@x.example,1.234,Lark Ana\n")
    expect(unclear.reading["asks"]).to eq("decimal" => %w[. ,], "name_order" => %w[given_first family_first])
    expect { check(unclear) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:decimal_unclear) }
    unclear = receiving.read_again(unclear.refresh, {"decimal" => ","}, version: unclear.version)
    expect { check(unclear) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:name_order_unclear) }
    clear = receive("Email,Height,Name\na@x.example,\"1.234,5\",\"Smith, John\"\nb@x.example,\"2.000\",Lark\n")
    expect(clear.reading).to include("decimal" => ",")
    expect(check(clear).counts).to eq("new" => 2)
  end

  it "takes notes and further addresses, once, and gives back what it can" do
    known = make_person(email: "ana@ladle.example", city: "York")
    Work::PersonAddresses.new(known, at).put("old@ladle.example", as: "further")
    text = "Email,Email 2,Comment,Town\n\"Ana <ana@ladle.example>, ann@ladle.example\",old@ladle.example,Rang in May,Hull\n" \
      "new@ladle.example,more@ladle.example,First note,Leeds\n"
    import = bring(text)

    further = -> { Records::PersonAddress.order(:id).all.map { |one| [one.person_id == known.id, one.email] } }
    expect(further.call).to contain_exactly([true, "old@ladle.example"], [true, "ann@ladle.example"], [false, "more@ladle.example"])
    notes = -> { Records::Event.where(kind: "note").order(:id).all.map { |event| event.data["text"] } }
    expect(notes.call).to contain_exactly("Rang in May", "First note")

    expect(bring(text, again: true).counts).to eq("same" => 2)
    expect(notes.call.size).to eq(2)
    Work::TakeBack.start(import.change_set, moment: at)
    expect(known.refresh.city).to eq("York")
    expect(further.call.select(&:first)).to eq([[true, "old@ladle.example"]])
  end

  it "remembers what was chosen for a header, and nothing of columns that have none" do
    check(receive("Mailto,Nom\na@x.example,Lark\n"), matching: ["person.email", "person.known_as"])
    expect(receiving.columns(receive("Mailto,Nom\nb@x.example,Wen\n")).last).to include(field: "person.known_as", by: "habit")
    check(receive("Ana,a@z.example\n"), matching: ["person.known_as", "person.email"])
    expect(receiving.columns(receive("York,b@z.example\nHull,c@z.example\n")).map { |column| column[:field] }).to eq([nil, "person.email"])
  end

  it "hears a no at the address of whom it brings in, and is heard by others with it" do
    gone = make_person(email: "ana@ladle.example", do_not_mail: true)
    Records::Person.where(id: gone.id).update(deleted_at: now)
    other = make_person(email: "bo@ladle.example", consent: "yes")
    import =
      bring("Email,Consent\nANA@ladle.example,yes\nbo@ladle.example,no\ncy@ladle.example,\ndee@ladle.example,no\ndee@ladle.example,yes\n")
    reached = Records::Person.kept.select_hash(:email_fold, %i[consent no_at_address])

    expect(reached.values_at("ana@ladle.example", "bo@ladle.example", "cy@ladle.example")).to eq(
      [["yes", true], ["no", true], ["unknown", false]]
    )
    expect(reached["dee@ladle.example"].last).to be(true)
    Work::TakeBack.start(import.change_set, moment: at)
    expect(other.refresh).to have_attributes(consent: "yes", no_at_address: false)
  end

  it "asks who is meant by owners that no colleague is, and takes the answer" do
    text = "Email,Owner\na@x.example,Maren Holt\nb@x.example,Xenia\n"
    maren
    import = check(receive(text))
    expect(import.counts).to eq("new" => 1, "refused" => 1)
    expect(import.choices["unknown_owners"]).to eq(["Xenia"])
    import = check(import, matching: %w[person.email person.owner], owners: {"xenia" => nil, "XENIA " => maren.id})
    expect(import.counts).to eq("new" => 2)
    expect { check(receive(text, name: "again.csv"), owners: {"Xenia" => 0}) }.to raise_error(Invalid)
  end

  it "remembers what a column was for" do
    import = receive("Shoe,Email\nHull,a@x.example\n")
    check(import, matching: ["person.city", "person.email"])

    expect(receiving.columns(receive("Email,Shoe\nb@x.example,Leeds\n")).map { |column| column.values_at(:field, :by) }).to eq(
      [%w[person.email habit], %w[person.city habit]]
    )
  end

  it "brings in the firm's own fields", :own_fields do
    make_own_fields
    bring("Email,Height,Budget,Rooms,Keyholder,Paint\na@x.example,2.5,\"£1,200\",hall; bar,yes,Slate Grey\n")

    expect(person("a@x.example").values).to include(
      x_height: BigDecimal("2.5"),
      x_budget: 120_000,
      x_rooms: "|bar||hall|",
      x_keyholder: true,
      x_paint: "Slate Grey",
      x_paint_fold: "slate grey"
    )
  end

  it "keeps to the do-not-mail list" do
    Work::BlockAddress.put(kind: "domain", value: "blocked.example", reason: "asked by letter", moment: at)
    bring("Email\na@blocked.example\nb@free.example\n")

    expect(Records::Person.select_hash(:email, :address_blocked)).to eq("a@blocked.example" => true, "b@free.example" => false)
  end

  it "reads XLSX and vCard like any other" do
    book = File.binread(workbook([["E-mail", "Born on"], ["a@x.example", Date.new(1980, 5, 12)]]))
    import = receive(book, name: "people.xlsx")
    take(check(import, matching: ["person.email", "person.birthday"]))
    bring("BEGIN:VCARD\nVERSION:4.0\nFN:Bram Oduya\nEMAIL:b@x.example\nEND:VCARD\n")

    expect(import.format).to eq("xlsx")
    expect(Records::Person.order(:email).select_map(%i[email birthday last_name])).to eq(
      [["a@x.example", Date.new(1980, 5, 12), nil], ["b@x.example", nil, "Oduya"]]
    )
  end
end
