# frozen_string_literal: true

RSpec.describe "bringing in a file" do
  around { |example| Dir.mktmpdir { |folder| (@folder = folder) && example.run } }

  let(:maren) { make_account }
  let(:at) { moment(account: maren) }
  let(:receiving) { Work::ReceiveImport.new(@folder, at) }
  let(:clerk) { Work::Clerk.new(@folder, Records::Owner.new(configuration)) }

  def receive(text, name: "people.csv") = receiving.receive(StringIO.new(text), name: name)

  def check(import, matching: receiving.columns(import).map { |column| column[:field] }, **options)
    Work::StartImport.check(import, matching, options.transform_keys(&:to_s), version: import.version, folder: @folder, moment: at)
    clerk.finish(now)
    import.refresh
  end

  def take(import, choices = {})
    Work::StartImport.take(import, choices.transform_keys(&:to_s), version: import.version, moment: at)
    clerk.finish(now)
    import.refresh
  end

  def bring(text, choices = {}, **options) = take(check(receive(text), **options), choices)

  def rows(import, verdict) = Web::ImportJson.rows(import, verdict, after: 0, limit: 100)[:rows]

  def person(email) = Records::Person.first(email: email)

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

  it "leaves nothing behind that waits when a file cannot be read" do
    ["%PDF-1.4\n", "", "Email,Town\n1,\"never\n#{"x,y\n" * 30_000}"].each do |text|
      expect { receive(text) }.to raise_error(Invalid)
    end
    expect([Records::Import.count, Dir.children(@folder)]).to eq([0, []])
  end

  it "comes back with the refused rows as they stood, each with its line and its reason" do
    import =
      bring(
        "Email,Surname,Standing,Note\nx@y,Lark,lead,=1+1\nb@x.example,Reyes,king,\nb@y.example,Moraine,lead,\nB@Y.example,Again,lead,\n," \
        ",lead,\n"
      )

    expect(import.counts).to eq("new" => 2, "partly" => 1, "refused" => 3)
    table = CSV.parse(Work::RefusedRows.file(import).read.force_encoding("UTF-8").delete_prefix("\uFEFF"))
    expect(table.first).to eq(%w[Email Surname Standing Note Line Reason])
    expect(table[1]).to eq(["x@y", "Lark", "lead", "'=1+1", "2", "“x@y” does not look like an address."])
    expect(table.drop(2).map(&:last)).to match(
      [/Standing is not “king”/, "The address is in line 4 of this file already.",
        "There is neither a name, a company nor an address in it."]
    )
  end

  it "takes a row in once, however often the clerk is stopped on the way" do
    stub_const("NimbleLetter::Work::TakeIn::SLICE", 3)
    import = check(receive("Email\n#{Array.new(10) { |n| "p#{n}@x.example\n" }.join}"))
    Work::StartImport.take(import, {}, version: import.version, moment: at)
    2.times { Work::TakeIn.new(import, at).round }
    expect { Work::TakeBack.start(import.change_set, moment: at) }.to raise_error(Invalid) { |error|
      expect(error.code).to eq(:still_running)
    }
    # Killed before the commit: the slice is taken back whole.
    Records.db.transaction(savepoint: true) do
      Work::TakeIn.new(import.refresh, at).round
      raise Sequel::Rollback
    end

    expect(Records::Person.count).to eq(6)
    clerk.finish(now)
    expect(Records::Person.count).to eq(10)
    expect(import.refresh).to have_attributes(state: "done")
    expect(import.change_set.handled).to eq(10)
  end

  describe "a check" do
    before { stub_const("NimbleLetter::Work::LayOutFile::PIECE", 3) }

    def check_of(text, matching = ["person.email"])
      receive(text).tap do |import|
        Work::StartImport.check(import, matching, {}, version: import.version, folder: @folder, moment: at)
      end
    end

    def checking(import) = Work::CheckImport.new(Records::Import[import.id], @folder, at)

    let(:text) { "Email\n#{Array.new(10) { |n| "p#{n % 7}@x.example\n" }.join}" }

    it "goes on where it was broken off, and finds one address twice across its pieces" do
      import = check_of(text)
      while Records::Import[import.id].state == "checking"
        Records.db.transaction do
          checking(import).call
          raise Sequel::Rollback
        end
        checking(import).call
      end
      expect(import.refresh).to have_attributes(state: "checked", rows: 10, counts: {"new" => 7, "refused" => 3})
      expect(Records.db[:import_rows].where(verdict: "refused").order(:number).select_map(%i[number reason cells])).to eq(
        [9, 10, 11].map { |n| [n, "The address is in line #{n - 7} of this file already.", JSON.generate(["p#{n - 9}@x.example"])] }
      )
      expect(Records.db[:import_pieces].count).to eq(0)
    end

    it "begins anew when somebody says anew what the columns are for, also under a clerk who is at it" do
      import = check_of(text)
      clerk_at_it = checking(import)
      2.times { clerk_at_it.call }
      Work::StartImport.check(import.refresh, ["person.last_name"], {}, version: import.version, folder: @folder, moment: at)
      3.times { clerk_at_it.call }
      clerk.finish(now)
      expect(import.refresh).to have_attributes(state: "checked", rows: 10, counts: {"new" => 10})
    end

    it "is not begun once the file is taken in" do
      import = bring("Email\na@x.example\n")
      expect { Work::StartImport.check(import, ["person.email"], {"again" => true}, version: import.version, folder: @folder, moment: at) }
        .to raise_error(Invalid, "This file is taken in already.")
    end
  end

  it "is taken back, but for what somebody changed since" do
    known = make_person(email: "ana@ladle.example", city: "York", job_title: "Owner")
    import = bring("Email,Town,Position,Tags\nana@ladle.example,Hull,Chef,press\nbo@ladle.example,Leeds,,\ncy@ladle.example,Leeds,,\n")
    Work::ChangePerson.call(person("cy@ladle.example"), {"person.city" => "Ripon"}, version: 1, moment: at)
    Work::ChangePerson.call(known.refresh, {"person.city" => "Whitby"}, version: known.version, moment: at)
    set = Work::TakeBack.start(import.change_set, moment: at)

    expect(set).to have_attributes(state: "undone", kept: 2)
    expect(known.refresh.values).to include(city: "Whitby", job_title: "Owner")
    expect(known.tags).to eq([])
    expect(Records::Person.kept.select_map(:email)).to contain_exactly("ana@ladle.example", "cy@ladle.example")
    expect { Work::TakeBack.start(set, moment: at) }.to raise_error(Invalid)
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

  describe "with companies, tags and lists that were not there" do
    let(:text) do
      "Email,Company,Tags\nana@ladle.example,New Ladle,fair\nbo@ladle.example,Bo & Sons,fair\ncy@ladle.example,New Ladle,felt\n"
    end

    def there = [Records::Company, Records::Tag, Records::List].map { |model| model.order(:id).select_map(:name) }

    it "leaves none of them when it is taken back" do
      make_company("The Copper Ladle")
      Records::Tag.named("press")
      make_person(email: "ana@ladle.example")
      before = [there, Records.db[:people_tags].count, Records::Person.kept.select_map(:company_id)]
      import = bring(text, {lists: ["From the fair"], tags: %w[press spring]})
      expect(there.map(&:size)).to eq([3, 4, 1])
      set = Work::TakeBack.start(import.change_set, moment: at)

      expect([there, Records.db[:people_tags].where(person_id: Records::Person.kept.select(:id)).count,
        Records::Person.kept.select_map(:company_id)]).to eq(before)
      expect(Web::ChangeJson.rows([set.refresh], at).first).to include(kept: 0, stays_made: 0)
    end

    it "leaves those that somebody uses, and says how many" do
      import = bring(text, {lists: ["From the fair"]})
      make_person(company_id: Records::Company.first(name: "New Ladle").id)
      another = Records::Person.where(id: make_person.id)
      Work::ChangeMany.start(Work::Act.new({"kind" => "tag", "names" => ["felt"]}, at), another, moment: at)
      Records::SavedFilter.create(
        name: "Fair",
        condition: {"field" => "person.tags", "is" => "one_of", "value" => ["fair"]},
        created_at: now,
        updated_at: now
      )
      set = Work::TakeBack.start(import.change_set, moment: at)

      expect(there).to eq([["New Ladle"], %w[fair felt], []])
      expect(Web::ChangeJson.rows([set.refresh], at).first).to include(stays_made: 3)
    end
  end

  describe "by which people join a sequence" do
    let(:sequence) { start(make_sequence(people: [make_person])) }
    let(:text) { "Email,City\n#{Array.new(6) { |n| "p#{n}@ladle.example,York" }.join("\n")}\np0@ladle.example,Hull\n" }

    before { Work::KeepRule.make(sequence, {kind: "file", settings: {}, live: true, again: "every"}, moment: at) }

    def joined = Records::Member.where(sequence_id: sequence.id).exclude(rule_id: nil)

    def go_round = Work::JoinByRules.round(at)

    it "has each join once, and takes all back but for who has had something" do
      import = bring(text)
      2.times { go_round }
      expect([joined.count, joined.select_map(:round).uniq]).to eq([6, [1]])
      had = joined.first
      Records::Delivery.where(member_id: had.id).update(state: "sent", sent_at: now)
      set = Work::TakeBack.start(import.change_set, moment: at)
      there = Records::Person.kept.where(id: joined.select(:person_id)).select_map(:id)
      expect([set.kept, there]).to eq([1, [had.person_id]])
      expect(joined.active.select_map(:id)).to eq([had.id])
      go_round
      expect(joined.count).to eq(6)
    end

    it "has nobody join once it was undone, and lets them join by the next file" do
      import = bring(text)
      Work::TakeBack.start(import.change_set, moment: at)
      go_round
      expect(joined.count).to eq(0)
      again = bring(text.sub("Hull", "Ripon"))
      go_round
      expect([joined.count, again.change_set.refresh.state]).to eq([6, "done"])
    end
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

  it "forgets a file and its rows after thirty days, and can still take back what came of it" do
    import = bring("Email,Town\na@x.example,York\nnonsense,Hull\n")
    waiting = receive("Email\nb@x.example\n")
    expect(Work::ForgetFiles.call(@folder, moment(now + 29 * 86_400))).to eq(0)
    clerk.finish(now + 31 * 86_400)

    expect([Dir.children(@folder), Records.db[:import_rows].count]).to eq([[], 0])
    expect(waiting.refresh).to have_attributes(state: "failed", problem: /has been removed/)
    expect(Web::ImportJson.write(waiting, receiving, at)[:columns]).to eq([])
    expect(Work::TakeBack.start(import.change_set, moment: at)).to have_attributes(state: "undone", kept: 0)
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

  describe "what can go wrong" do
    it "refuses to take the same file twice by mistake" do
      bring("Email\na@x.example\n")
      again = receive("Email\na@x.example\n")

      expect { check(again) }.to raise_error(Conflict) { |error| expect(error.code).to eq(:same_file) }
      expect(check(again.refresh, again: true).counts).to eq("same" => 1)
    end

    it "takes two files at once, each by itself" do
      first, second = receive("Email\na@x.example\n"), receive("Email\na@x.example\nb@x.example\n")
      [first, second].each { |import| check(import) }
      [first, second].each { |import| Work::StartImport.take(import.refresh, {}, version: import.version, moment: at) }
      clerk.finish(now)

      expect(Records::Person.where(email: "b@x.example").count).to eq(1)
      expect([first, second].map { |import| import.refresh.state }).to eq(%w[done done])
    end

    it "says what is wrong with a matching, a field that is gone, or a file that is empty" do
      import = receive("Email,Town\na@x.example,York\n")

      expect { check(import, matching: %w[person.email person.email]) }.to raise_error(Invalid, /Two columns are meant for address/)
      expect { check(import, matching: %w[person.shoe person.email]) }.to raise_error(Invalid) { |error|
        expect(error.code).to eq(:unknown_field)
      }
      expect { check(import, matching: [nil, "person.city"]) }.to raise_error(Invalid, /No column is meant for a name/)
      expect { receive("") }.to raise_error(Invalid, /nothing in this file/)
      expect(Dir.children(@folder).size).to eq(1)
    end

    it "refuses a row with a NUL byte or a line break in the address, and reads the rest" do
      import = check(receive("Email,Surname\na@x.example,L\u0000rk\n\"b@x.\nexample\",Reyes\nc@x.example,Moraine\n"))

      expect(import.counts).to eq("refused" => 2, "new" => 1)
      expect(rows(import, "refused").map { |row| row[:reason] }).to match([/NUL byte in last name/, /line break in the address/])
    end

    it "says where a file breaks off, and keeps all records as they were" do
      good = Array.new(300) { |n| "p#{n}@x.example,Lark\n" }.join
      import = check(receive("Email,Surname\n#{good}b@x.example,\"Reyes\n#{"c@x.example,x\n" * 20_000}"))

      expect(import).to have_attributes(
        state: "failed",
        problem: /From line 302 on this file cannot be read: a quotation mark opens there/
      )
      expect(Records::Person.count).to eq(0)
    end

    it "takes regular expressions and SQL for what they are: words" do
      bring("Email,Surname\na@x.example,'; DROP TABLE people; --\nb@x.example,(.*)+\n")

      expect(Records::Person.order(:email).select_map(:last_name)).to eq(["'; DROP TABLE people; --", "(.*)+"])
    end
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
