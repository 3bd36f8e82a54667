# frozen_string_literal: true

# People join by themselves, once a round, when a rule begins to be true of them.
RSpec.describe "joining by live rules" do
  let(:tag) { Records::Tag.named("price list") }
  let(:list) { Records::List.create(name: "Open days", created_at: now, updated_at: now) }
  let(:sequence) { start(make_sequence(people: [make_person], letters: [make_letter, make_letter])) }

  def rule(kind, settings = {}, **more) =
    Work::KeepRule.make(sequence, {kind: kind, settings: settings, live: true, **more}, moment: moment)

  def wear(person, on: true, at: now, tag: self.tag)
    change = {"person.tags" => on ? [tag.name] : []}
    change_person(person, change, moment(at))
  end

  def go_round(at = now) = Work::JoinByRules.round(moment(at))

  def joined(person = nil) = Records::Member.where({sequence_id: sequence.id, person_id: person&.id}.compact)

  def end_of(person, state = "finished")
    joined(person).active.update(state: state, due_at: nil, waits_for: nil)
    Records::Delivery.where(person_id: person.id, state: "due").update(state: "skipped")
  end

  def days(count) = now + count * 86_400

  it "takes in whoever gets a tag, a place on a list, or another value of a field, and nobody else" do
    by_tag = rule("tag", {tag_id: tag.id})
    rule("list", {list_id: list.id})
    rule("field", {field: "person.consent", from: "unknown", to: "yes"})
    tagged, listed, agreed, other, hull = Array.new(5) { make_person }
    wear(tagged)
    list.put(Records::Person.where(id: listed.id))
    change_person(agreed, {"person.consent" => "yes"})
    wear(other, tag: Records::Tag.named("another"))
    change_person(hull, {"person.city" => "Hull"})
    expect { go_round }.to change { joined.count }.by(3)
    expect(joined(tagged).first.values).to include(joined_by: "tag", rule_id: by_tag.id, round: 1, waits_for: "time")
    expect(Records::Delivery.where(person_id: [tagged, listed, agreed].map(&:id)).count).to eq(3)
    expect(Records::Event.where(kind: "joined", person_id: tagged.id).first.data).to include("by" => "tag", "rule" => by_tag.id)
    expect { go_round }.not_to(change { [joined.count, Records::Stirred.count] })
    expect(Records::Stirred.count).to eq(0)
  end

  it "takes in people of a file, and those of whom somebody says that it is true already" do
    there = make_person
    wear(there)
    rule("tag", {tag_id: tag.id}, now_too: true)
    rule("file")
    brought = make_person
    Records::Event.create(kind: "imported", person_id: brought.id, occurred_at: now)
    go_round
    expect(joined.select_order_map(:person_id)).to include(there.id, brought.id)
  end

  it "does not take in whoever had the tag for a moment only, or before it was switched on" do
    before, moment_only = make_person, make_person
    wear(before)
    rule("tag", {tag_id: tag.id})
    wear(moment_only)
    wear(moment_only, on: false)
    expect { go_round }.not_to(change { joined.count })
  end

  describe "a filter" do
    let(:in_hull) { {audience: {"condition" => {"field" => "person.city", "is" => "one_of", "value" => ["Hull"]}}} }

    def move(person, city) = change_person(person, {"person.city" => city})

    it "takes in those of whom it begins to be true, and those it was true of only where somebody says so" do
      there = make_person(city: "Hull")
      later = make_person
      live = rule("filter", in_hull)
      move(there, "Hull ")
      move(later, "Hull")
      go_round
      expect([joined(there).count, joined(later).count]).to eq([0, 1])
      Work::KeepRule.change(live, {version: live.version, live: false}, moment: moment)
      Work::KeepRule.change(live.refresh, {version: live.version, live: true, now_too: true}, moment: moment)
      go_round
      expect(joined(there).count).to eq(1)
    end

    it "hears of companies, deals and what people do" do
      company = make_company("The Lark", city: "Ely")
      rule("filter", {audience: {"condition" => {"any" => [{"field" => "company.city", "is" => "one_of", "value" => ["Hull"]},
        {"deals" => {"field" => "deal.stage", "is" => "one_of", "value" => ["signed"]}}, {"activity" => "opened"}]}}})
      of_company, with_deal, opener, nobody = make_person(company_id: company.id), make_person, make_person, make_person
      go_round
      company.update(city: "Hull")
      Work::ChangeDeal.create(with_deal, {name: "Oak hall", stage: "signed"}, moment: moment)
      Records::Event.create(kind: "opened", person_id: opener.id, occurred_at: now)
      nobody.update(city: "Ripon")
      go_round
      expect([of_company, with_deal, opener, nobody].map { |person| joined(person).count }).to eq([1, 1, 1, 0])
    end

    it "is asked once a day of what time alone makes true" do
      soon = make_person(birthday: Date.new(1980, 5, 20))
      rule("filter", {audience: {"condition" => {"field" => "person.birthday", "is" => "yearly_in_next", "value" => 3}}})
      5.times { |n| go_round(days(n)) }
      expect(joined(soon).count).to eq(0)
      go_round(days(6))
      expect(joined(soon).count).to eq(1)
    end

    it "begins anew when it was true no longer in between" do
      person = make_person
      rule("filter", in_hull, again: "every")
      [["Hull", 1], ["Hull", 1], ["York", 1], ["Hull", 2]].each do |city, times|
        move(person, city)
        go_round
        expect(joined(person).count).to eq(times), "#{city} #{times}"
        end_of(person)
      end
    end

    it "waits for whoever has no consent, and takes them in when they give it" do
      person = make_person(consent: "no")
      rule("filter", in_hull)
      move(person, "Hull")
      go_round
      expect(joined(person).count).to eq(0)
      Work::TakeNoBack.call(person.refresh, "on the telephone", moment: moment)
      go_round
      expect(joined(person).count).to eq(1)
    end
  end

  describe "again" do
    def once_more(person, at)
      wear(person, on: false, at: at)
      wear(person, at: at)
      go_round(at)
      joined(person).count
    end

    it "is never, after having finished, or every time with a gap" do
      {"never" => [1, 1, 1], "finished" => [1, 2, 2], "every" => [1, 1, 2]}.each do |again, counts|
        live = rule("tag", {tag_id: tag.id}, again: again, gap_days: 10)
        person = make_person
        seen = [once_more(person, now)]
        expect(once_more(person, days(1))).to eq(1), "#{again}: is in it already"
        end_of(person)
        seen << once_more(person, days(2))
        end_of(person, "left")
        seen << once_more(person, days(12))
        expect(seen).to eq(counts), again
        Work::KeepRule.drop(live, moment: moment)
      end
    end

    it "ends where it goes round in a circle: three times within a day, then somebody is to look at it" do
      rule("tag", {tag_id: tag.id}, again: "every")
      person = make_person
      5.times do |n|
        once_more(person, now + n * 60)
        end_of(person)
      end
      expect(joined(person).count).to eq(3)
      expect(Records::SetAside.where(kind: "journey").get(:reason)).to include("going round in a circle")
    end
  end

  it "comes once a year round a date, also when days were missed" do
    person = make_person(birthday: Date.new(1980, 5, 25))
    leap = make_person(birthday: Date.new(1980, 2, 29))
    rule("yearly", {field: "person.birthday", days: -10})
    [0, 2, 5, 6, 300, 368, 370].each do |n|
      go_round(days(n))
      [person, leap].each { |one| end_of(one) }
    end
    expect(joined(person).order(:round).select_map(:joined_at).map(&:to_date)).to eq([days(5).to_date, days(368).to_date])
    expect(joined(leap).count).to eq(1)
  end

  it "has whoever would have a gap, or no mailbox, wait until it is filled" do
    letter = make_letter(body: "Your room in {{city}}")
    gappy = start(make_sequence(people: [make_person], letters: [letter]))
    live = Work::KeepRule.make(gappy, {kind: "tag", settings: {tag_id: tag.id}, live: true}, moment: moment)
    person = make_person(city: nil)
    wear(person)
    go_round
    expect(live.waits.all).to match([include(person_id: person.id, reason: "gap", fields: "person.city")])
    change_person(person, {"person.city" => "Hull"})
    go_round
    expect([live.waits.count, Records::Member.where(sequence_id: gappy.id, person_id: person.id).count]).to eq([0, 1])
  end

  it "hears no tag that is only given back, moved to another record or poured into another tag" do
    other = Records::Tag.named("prices")
    rule("tag", {tag_id: tag.id})
    had, gone, kept, poured = Array.new(4) { make_person }
    here = moment(account: make_account)
    [had, gone].each { |one| wear(one) }
    wear(poured, tag: other)
    [had, gone].each { |one| Records::Stirred.where(person_id: one.id).delete }
    untag = Work::Act.new({"kind" => "untag", "names" => [tag.name]}, here)
    set = Work::ChangeMany.start(untag, Records::Person.where(id: had.id), moment: here)
    Work::TakeBack.start(set, moment: here)
    Work::MergeRecords.new(kept.refresh, gone.refresh, here).merge({}, [kept.version, gone.version])
    go_round
    expect([had, gone, kept].map { |one| joined(one).count }).to eq([0, 0, 0])
    Work::RenameTag.call(other, tag.name, merge: true)
    go_round
    expect(joined(poured).count).to eq(0)
    expect(Records.db[:people_tags].where(tag_id: tag.id).select_order_map(:person_id)).to include(had.id, kept.id, poured.id)
    after = make_person
    wear(after)
    go_round
    expect(joined(after).count).to eq(1)
  end

  it "goes by the tag that is left when two become one, and by what filters are called" do
    other = Records::Tag.named("prices")
    live = rule("tag", {tag_id: other.id})
    Work::RenameTag.call(other, tag.name, merge: true)
    expect(live.refresh.settings).to eq("tag_id" => tag.id)
    expect(Work::WhereUsed.new.tag(tag.refresh).map { |use| use[:id] }).to eq([sequence.id])
    person = make_person
    wear(person)
    go_round
    expect(joined(person).count).to eq(1)
  end

  it "lets the other rules go on when one speaks of a filter that is gone, and shows it" do
    filter = Records::SavedFilter.create(name: "Hull", condition: {"field" => "person.city", "is" => "one_of", "value" => ["Hull"]},
      created_at: now, updated_at: now)
    rule("filter", {audience: {"filters" => [filter.id]}})
    rule("tag", {tag_id: tag.id})
    filter.delete
    person = make_person
    wear(person)
    2.times { go_round }
    expect(joined(person).count).to eq(1)
    expect(Records::SetAside.select_map(:kind)).to eq(["round"])
  end

  it "asks for the password again before it takes in very many who are there already" do
    stub_const("NimbleLetter::Work::Moment::MANY", 2)
    Array.new(3) { wear(make_person) }
    stale = Work::Moment.new(now: now, firm: firm, fresh: false)
    input = {kind: "tag", settings: {tag_id: tag.id}, live: true}
    expect { Work::KeepRule.make(sequence, {**input, now_too: true}, moment: stale) }.to raise_error(Forbidden)
    expect(Records::JoinRule.count).to eq(0)
    expect(Work::KeepRule.make(sequence, input, moment: stale).listens).to be(true)
  end

  it "keeps one whom nobody can take in from holding up the others" do
    rule("tag", {tag_id: tag.id})
    people = Array.new(3) { make_person }
    people.each { |person| wear(person) }
    allow(Work::Knowing).to receive(:people).and_wrap_original do |original, ids, plan|
      raise "odd" if ids.include?(people[1].id)

      original.call(ids, plan)
    end
    go_round
    expect(people.map { |person| joined(person).count }).to eq([1, 0, 1])
    expect(Records::SetAside.where(kind: "joining").count).to eq(1)
    expect { go_round }.not_to(change { Records::SetAside.where(kind: "joining").get(:tries) })
  end

  it "keeps a sequence from ending as long as somebody may join, and ends with it" do
    live = rule("tag", {tag_id: tag.id})
    Records::Member.where(sequence_id: sequence.id).each { |member| Work::Leaving.call(member, "taken_out", at: now) }
    expect(sequence.refresh.state).to eq("running")
    person = make_person
    Work::RunSequence.call(sequence, "stop", moment: moment)
    wear(person)
    go_round
    expect([joined(person).count, live.refresh.listens, Records::Stirred.count]).to eq([0, false, 0])
  end

  it "listens from the start of a sequence that nobody is in yet" do
    draft = make_sequence(people: [], letters: [make_letter])
    draft.update(audience: {})
    Work::KeepRule.make(draft, {kind: "tag", settings: {tag_id: tag.id}, live: true}, moment: moment)
    early, later = make_person, make_person
    wear(early)
    go_round
    ready = Work::ReadyCheck.new(draft.refresh, moment).call
    expect(ready).to include(ready: true, people: 0, letters: 0)
    Work::StartSequence.call(draft, version: draft.version, letters: 0, seen: ready[:seen], moment: moment)
    wear(later)
    go_round
    expect(Records::Member.where(sequence_id: draft.id).select_map(:person_id)).to eq([later.id])
    expect(draft.refresh.state).to eq("running")
  end
end
