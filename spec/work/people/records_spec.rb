# frozen_string_literal: true

RSpec.describe "records" do
  let(:maren) { make_account(name: "Maren Holt") }
  let(:at) { moment(account: maren) }

  describe "a person" do
    it "moves from lead to client and back on one record, dated" do
      person = make_person(standing: "lead", standing_since: Date.new(2025, 1, 1))
      change_person(person, {"person.standing" => "client"}, at)

      expect(person.refresh).to have_attributes(standing: "client", standing_since: Date.new(2026, 5, 12))
      change_person(person, {"person.standing" => "lead"}, at)
      expect(history(person)).to eq(["Standing: lead → client", "Standing: client → lead"])
    end

    it "carries when, how and by whom consent was noted" do
      person = make_person
      change_person(person, {"person.consent" => "yes", "person.consent_how" => "card at the fair"}, at)

      expect(person.refresh).to have_attributes(
        consent_on: Date.new(2026, 5, 12),
        consent_how: "card at the fair",
        consent_by_id: maren.id
      )
      expect(Web::PersonJson.write(person)[:consent_by]).to eq("Maren Holt")
    end

    it "lives in a guessed time zone until somebody knows better" do
      person = make_person(country: nil, time_zone: nil)
      change_person(person, {"person.country" => "France"}, at)
      expect(person.refresh.time_zone).to eq("Europe/Paris")
      change_person(person, {"person.time_zone" => "America/New_York"}, at)
      change_person(person, {"person.country" => "Ireland"}, at)
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
end
