# frozen_string_literal: true

RSpec.describe "records" do
  let(:maren) { make_account(name: "Maren Holt") }
  let(:at) { moment(account: maren) }

  def change(person, values) = Work::ChangePerson.call(person.refresh, values, version: person.version, moment: at)

  def history(person) =
    Web::HistoryWords.new(Records::Event.where(person_id: person.id).order(:id).all, moment).entries.map { |entry| entry[:words] }

  describe "a person" do
    it "moves from lead to client and back on one record, dated" do
      person = make_person(standing: "lead", standing_since: Date.new(2025, 1, 1))
      change(person, {"person.standing" => "client"})

      expect(person.refresh).to have_attributes(standing: "client", standing_since: Date.new(2026, 5, 12))
      change(person, {"person.standing" => "lead"})
      expect(history(person)).to eq(["Standing: lead → client", "Standing: client → lead"])
    end

    it "carries when, how and by whom consent was noted" do
      person = make_person
      change(person, {"person.consent" => "yes", "person.consent_how" => "card at the fair"})

      expect(person.refresh).to have_attributes(
        consent_on: Date.new(2026, 5, 12),
        consent_how: "card at the fair",
        consent_by_id: maren.id
      )
      expect(Web::PersonJson.write(person)[:consent_by]).to eq("Maren Holt")
    end

    it "lives in a guessed time zone until somebody knows better" do
      person = make_person(country: nil, time_zone: nil)
      change(person, {"person.country" => "France"})
      expect(person.refresh.time_zone).to eq("Europe/Paris")
      change(person, {"person.time_zone" => "America/New_York"})
      change(person, {"person.country" => "Ireland"})
      expect(person.refresh.time_zone).to eq("America/New_York")
    end

    it "has several addresses with one in use" do
      person = make_person(email: "ana@old.example")
      Work::PersonAddresses.new(person, at).put("ana@new.example", as: "in_use")

      expect([person.refresh.email, person.other_addresses.map(&:email)]).to eq(["ana@new.example", ["ana@old.example"]])
      Work::PersonAddresses.new(person, at).put("ANA@old.example", as: "further")
      expect(person.refresh.other_addresses.size).to eq(1)
      expect { Work::PersonAddresses.new(person, at).put("nonsense", as: "further") }.to raise_error(Sequel::ValidationFailed)
    end

    it "is put in order by anything, empties last either way, to any place" do
      make_person(city: nil, last_name: "A")
      make_person(city: "York", last_name: "B")
      make_person(city: "Hull", last_name: "C", company_id: make_company("Zed").id)
      names = ->(sort, offset = 0) do
        Records::PeopleTable.new(Records::Person.kept, sort: sort).page(offset: offset, limit: 2).map(&:last_name)
      end

      expect([names.call({"field" => "person.city"}), names.call({"field" => "person.city"}, 2)]).to eq([%w[C B], %w[A]])
      expect(
        names.call({"field" => "person.city", "descending" => true}) + names.call({"field" => "person.city", "descending" => true}, 2)
      ).to eq(%w[B C A])
      expect(names.call({"field" => "company.name"}).first).to eq("C")
      expect(names.call({"field" => "person.city"}, 50)).to eq([])
      expect { names.call({"field" => "person.tags"}) }.to raise_error(Invalid)
    end

    it "is found by a phone however it is written" do
      person = make_person(phone: "+44 (0)1632 960 115")

      ["01632 960 115", "960115", "1632 960 115"].each do |words|
        expect(Records::Person.kept.with_words(words.delete_prefix("0")).select_map(:id)).to eq([person.id]), words
      end
    end
  end

  describe "a company" do
    it "takes its people's search along when it is renamed" do
      company = make_company("The Copper Ladle")
      person = make_person(company_id: company.id, email: nil)
      Work::ChangeCompany.call(
        company,
        {"company.name" => "The Silver Spoon", "company.website" => "spoon.example"},
        version: 1,
        moment: at
      )

      expect(Records::Person.kept.with_words("silver").select_map(:id)).to eq([person.id])
      expect(Records::Person.kept.with_words("copper").count).to eq(0)
      expect(Web::CompanyJson.write(company.refresh)[:values]).to include("company.website" => "https://spoon.example")
      expect { Work::ChangeCompany.create({"company.name" => "the silver SPOON"}, moment: at) }.to raise_error(Invalid)
    end
  end

  describe "a deal" do
    it "goes through the firm's stages, dated when it is won or lost, and open again when it is not" do
      person = make_person
      deal = Work::ChangeDeal.create(person, {name: "Dining room", value_pence: 240_000}, moment: at)
      Work::ChangeDeal.call(deal, {stage: "signed"}, version: 1, moment: at)
      expect(deal.refresh).to have_attributes(stage: "signed", closed_on: Date.new(2026, 5, 12))
      Work::ChangeDeal.call(deal, {stage: "proposal"}, version: 2, moment: at)
      expect(deal.refresh.closed_on).to be_nil
      expect(history(person)).to eq(
        [
          "Deal “Dining room”: nothing → listening visit",
          "Deal “Dining room”: listening visit → signed",
          "Deal “Dining room”: signed → proposal"
        ]
      )
      expect { Work::ChangeDeal.call(deal, {stage: "gone"}, version: 3, moment: at) }.to raise_error(Invalid)
      expect { Work::ChangeDeal.call(deal, {stage: "lost"}, version: 1, moment: at) }.to raise_error(Conflict)
    end

    it "keeps its stage when the stage is renamed, and holds a stage that would be taken away" do
      Work::ChangeDeal.create(make_person, {name: "Hall", stage: "measured"}, moment: at)
      stages = Records::FieldCatalogue.deal_stages
      renamed =
        stages.map { |stage| (stage["key"] == "measured") ? stage.merge("words" => "drawn up") : stage } +
        [{"words" => "on hold", "outcome" => "open"}]
      Work::DealStages.put(renamed, moment: moment)

      expect(Records::FieldCatalogue.current["deal.stage"].choices).to include("measured" => "drawn up", "on_hold" => "on hold")
      without = stages.reject { |stage| stage["key"] == "measured" }
      expect { Work::DealStages.put(without, moment: moment) }.to raise_error(Invalid) { |error|
        expect(error.code).to eq(:in_use)
      }
      expect { Work::DealStages.put([stages.first, stages.first], moment: moment) }.to raise_error(Invalid)
    end
  end

  describe "the do-not-mail list" do
    it "is stronger than any audience, by address and by domain, and lets go again" do
      people = [make_person(email: "a@blocked.example"), make_person(email: "b@free.example")]
      sequence = start(make_sequence(people: people))
      domain = Work::BlockAddress.put(kind: "domain", value: "Blocked.example", reason: "asked by letter", moment: at)
      address = Work::BlockAddress.put(kind: "address", value: "a@blocked.example", reason: "twice", moment: at)

      expect(Records::Member.first(person_id: people.first.id)).to have_attributes(state: "left", left_reason: "address_blocked")
      counts =
        at.sieving(at.audience({"people" => people.map(&:id)}), sequence_id: sequence.id).account[:stages]
          .flat_map { |stage| stage[:reasons] }
          .to_h { |reason| reason.values_at(:key, :count) }
      expect(counts).to include("address_blocked" => 1, "already_in" => 1)
      Work::BlockAddress.take_off(domain, moment: at)
      expect(people.first.refresh.address_blocked).to be(true)
      Work::BlockAddress.take_off(address, moment: at)
      expect(people.first.refresh.address_blocked).to be(false)
      expect { Work::BlockAddress.put(kind: "domain", value: "no domain", reason: "x", moment: at) }.to raise_error(
        Sequel::ValidationFailed
      )
    end
  end

  describe "tags" do
    it "are renamed in filters and audiences too, and merged once that is wanted" do
      press, media = %w[press media].map { |name| Records::Tag.named(name) }
      [make_person.add_tag(press), make_person.tap { |person| [press, media].each { |tag| person.add_tag(tag) } }]
      filter =
        Records::SavedFilter.create(
          name: "Press",
          condition: {
            "field" => "person.tags",
            "is" => "one_of",
            "value" => ["Press"]
          },
          created_at: now,
          updated_at: now
        )

      expect { Work::RenameTag.call(press, "Media") }.to raise_error(Conflict) { |error| expect(error.data).to include(people: 1) }
      expect(Work::RenameTag.call(press, "Media", merge: true)).to include(id: media.id, people: 2)
      expect(filter.refresh.condition["value"]).to eq(["media"])
      expect(Records::Tag.count).to eq(1)
    end
  end

  describe "lists" do
    it "hold who was found at that moment, and are held while something uses them" do
      people = [make_person(city: "Hull"), make_person(city: "York")]
      list = Work::KeepList.make("Hull in May", Records::Person.kept.where(city: "Hull"), moment: at)
      people.last.update(city: "Hull")
      sequence = make_sequence(people: [])
      sequence.update(audience: {"lists" => [list.id]})

      expect(at.audience(sequence.audience).people.select_map(:id)).to eq([people.first.id])
      expect(Work::WhereUsed.new.list(list)).to match([hash_including(kind: "sequence", name: "Quieter rooms")])
      expect { Work::WhereUsed.refuse_if_used!("list", list.name, Work::WhereUsed.new.list(list)) }.to raise_error(
        Invalid,
        /is used by “Quieter rooms”/
      )
    end
  end

  describe "an audience" do
    it "is any mix of filters, lists, members and single people, minus exclusions, each once" do
      people = Array.new(6) { |n| make_person(city: %w[York York Hull Leeds Ripon Whitby][n]) }
      york =
        Records::SavedFilter.create(
          name: "York",
          condition: {
            "field" => "person.city",
            "is" => "one_of",
            "value" => ["York"]
          },
          created_at: now,
          updated_at: now
        )
      list = Work::KeepList.make("Some", Records::Person.where(id: people.values_at(1, 2).map(&:id)), moment: at)
      off = Work::KeepList.make("Not these", Records::Person.where(id: people[0].id), moment: at)
      earlier = start(make_sequence(people: [people[3]]))
      json = {
        "filters" => [york.id],
        "lists" => [list.id],
        "people" => [people[4].id, people[1].id],
        "members" => [{"membership" => "was_in", "sequence_id" => earlier.id, "status" => [Core::Statuses::Ladder.new.first]}],
        "without_lists" => [off.id],
        "without" => [people[4].id]
      }
      audience = at.audience(json)

      expect(audience.people.select_order_map(:id)).to eq(people.values_at(1, 2, 3).map(&:id))
      why = Web::WhyJson.write(people[0], audience, at)
      expect(why).to include(matches: false)
      expect(why[:without].first).to include(holds: true)
      expect(Web::WhyJson.write(people[1], audience, at)).to include(matches: true, by_hand: true, reason: nil)
    end
  end

  describe "likely doubles" do
    def pairs = Records::LikelyDoubles.find.map { |pair| [pair.first_id, pair.second_id, pair.reason] }

    it "are found by address, name and company, and phone, each pair once" do
      company = make_company
      ana = make_person(email: "ana.lark@house.example", first_name: "Ana", last_name: "Lark", company_id: company.id)
      other = make_person(email: "analark+fair@house.example", first_name: "Ana", last_name: "Lark", company_id: company.id)
      bo = make_person(email: nil, first_name: "Bo", last_name: "Reyes", phone: "01632 960 115")
      phone = make_person(first_name: "B.", last_name: "Reyes", phone: "+44 1632 960115")
      make_person(email: "ana.lark@elsewhere.example", first_name: "Ana", last_name: "Lark")

      expect(pairs).to eq([[ana.id, other.id, "address"], [bo.id, phone.id, "phone"]])
      Records.db[:not_doubles].insert(first_id: ana.id, second_id: other.id)
      expect(pairs.map(&:last)).to eq(["phone"])
    end
  end

  describe "merging two records" do
    let(:kept) { make_person(first_name: "Ana", last_name: "Lark", email: "ana@house.example", city: nil) }
    let(:gone) { make_person(first_name: "A.", last_name: "Lark", email: "ana@home.example", city: "Hull", do_not_mail: true) }

    def merge(values = {"person.city" => "Hull"}) =
      Work::MergeRecords.call(kept, gone, values, versions: [kept.version, gone.version], moment: at)

    before do
      gone.add_tag(Records::Tag.named("press"))
      Work::ChangeDeal.create(gone, {name: "Hall"}, moment: at)
      Work::Happening.call("note", at: now, person_id: gone.id, data: {text: "rang"})
      @sequence = start(make_sequence(people: [kept, make_person(email: "x@y.example")]))
      Records::Member.create(
        sequence_id: @sequence.id,
        person_id: gone.id,
        mailbox_id: make_mailbox.id,
        base: now,
        joined_at: now,
        status: "sent",
        state: "active"
      )
    end

    it "keeps history, deals, memberships, tags and addresses of both, and a no of either" do
      merge

      expect(kept.refresh).to have_attributes(city: "Hull", do_not_mail: true)
      expect([kept.tags.map(&:name), kept.deals.map(&:name), kept.other_addresses.map(&:email)]).to eq(
        [["press"], ["Hall"], ["ana@home.example"]]
      )
      expect(Records::Event.where(person_id: kept.id, kind: "note").count).to eq(1)
      expect(Records::Member.where(person_id: kept.id).select_map(%i[state round])).to contain_exactly(["left", 1], ["left", 2])
      expect(Records::Person.kept.where(id: gone.id).count).to eq(0)
      expect(history(kept)).to include("Merged with another record of the same person")
    end

    it "is taken back whole, but for what somebody has changed since" do
      set = merge
      before = Records::Event.where(kind: "note").get(:person_id)
      Work::TakeBack.start(set, moment: at)

      expect([before, Records::Event.where(kind: "note").get(:person_id)]).to eq([kept.id, gone.id])
      expect(kept.refresh).to have_attributes(city: nil, do_not_mail: false)
      expect([kept.tags, kept.deals, kept.other_addresses, gone.refresh.deals.size, gone.deleted_at]).to eq([[], [], [], 1, nil])
      again = Work::MergeRecords.call(kept, gone, {}, versions: [kept.version, gone.version], moment: at)
      change(kept, {"person.city" => "Ripon"})
      expect([Work::TakeBack.start(again, moment: at).kept, kept.refresh.city, gone.refresh.deleted_at]).to eq([0, "Ripon", nil])
      picked = Work::MergeRecords.call(kept, gone, {"person.city" => "Hull"}, versions: [kept.version, gone.version], moment: at)
      change(kept, {"person.city" => "Leeds"})
      expect([Work::TakeBack.start(picked, moment: at).kept, kept.refresh.city, kept.other_addresses]).to eq([1, "Leeds", []])
    end

    it "works for names of every alphabet, there and back" do
      %w[Đorđe Łukasz Øyvind Ħal דוד Aná].each do |name|
        pair = Array.new(2) { make_person(first_name: name, city: name) }
        set = Work::MergeRecords.call(*pair, {"person.city" => name * 2}, versions: [1, 1], moment: at)
        expect([pair.first.refresh.city, Work::TakeBack.start(set, moment: at).kept, pair.first.refresh.city]).to eq([name * 2, 0, name])
      end
    end

    it "cannot be taken back when a record has been emptied" do
      set = merge
      Records.db[:people].where(id: gone.id).update(deleted_at: now - 40 * 86_400)
      Work::PutInBin.empty_old(at)
      expect { Work::TakeBack.start(set, moment: at) }.to raise_error(Conflict) { |error| expect(error.code).to eq(:emptied_since) }
    end

    it "refuses when one of the two has changed, or both are one" do
      expect { Work::MergeRecords.call(kept, gone, {}, versions: [kept.version, 99], moment: at) }.to raise_error(Conflict)
      expect { Work::MergeRecords.call(kept, kept, {}, versions: [1, 1], moment: at) }.to raise_error(Invalid)
    end
  end
end

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
    Work::ChangePerson.call(person, {"person.x_shoe_size" => "38.5"}, version: 1, moment: moment)
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

RSpec.describe "adding people to a sequence that runs" do
  let(:first) { make_person }
  let(:gone) { make_person }
  let(:fresh) { make_person }
  let(:sequence) { start(make_sequence(people: [first, gone])) }

  before do
    member = Records::Member.first(sequence_id: sequence.id, person_id: gone.id)
    member.update(status: "replied")
    Work::Leaving.call(member, "taken_out", at: now)
  end

  def joining(again = "leave_out") = Work::AddPeople.new(sequence, {"people" => [first.id, gone.id, fresh.id]}, moment, again: again)

  it "passes over who is in it, and says for how many the status would be kept or reset" do
    expect(joining.preview).to include(fresh: 1, letters: 2, again: [{status: "replied", words: "replied", people: 1}])
    expect(joining("keep").preview[:letters]).to eq(4)
    expect(joining.preview[:sieve]).to include(matching: 3, would_get_it: 2)
  end

  let(:begins) { Core::Statuses::Ladder.new.first }

  it "makes members with their letters, the status kept or reset as was said" do
    expect { joining("keep").call(letters: 3) }.to raise_error(Conflict)
    expect(joining("keep").call(letters: 4)).to eq(2)

    expect(Records::Member.where(sequence_id: sequence.id).order(:id).select_map(%i[person_id round state status])).to eq(
      [
        [first.id, 1, "active", begins],
        [gone.id, 1, "left", "replied"],
        [gone.id, 2, "active", "replied"],
        [fresh.id, 1, "active", begins]
      ]
    )
    expect(figures(sequence)["planned"]).to eq(8)
  end

  it "refuses nobody, and a sequence that has ended" do
    joining.call(letters: 2)
    expect { joining.call(letters: 0) }.to raise_error(Invalid)
    sequence.update(state: "ended")
    expect { joining }.to raise_error(Invalid)
  end
end
