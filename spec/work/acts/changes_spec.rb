# frozen_string_literal: true

RSpec.describe "doing something to many records" do
  let(:maren) { make_account }
  let(:at) { moment(account: maren) }
  let!(:people) { Array.new(3) { |n| make_person(city: %w[York Hull Leeds][n]) } }

  def everybody = Records::Person.kept

  def act(people = everybody, **json) = Work::ChangeMany.start(Work::Act.new(json, at), people, moment: at)

  def undo(set) = Work::TakeBack.start(set, moment: at)

  def values(column) = Records::Person.order(:id).select_map(column)

  it "is told all that it needs: nothing that takes something away has a default" do
    at = moment(account: make_account)
    needed = {"do_not_mail" => "value", "owner" => "owner_id", "field" => "field", "untag" => "names", "unlist" => "list_id",
              "standing" => "standing", "consent" => "consent"}
    needed.each do |kind, name|
      expect { Work::Act.new({"kind" => kind}, at) }.to raise_error(Invalid) { |error| expect(error.at).to eq("act.#{name}") }
    end
    expect { Work::Act.new({"kind" => "field", "field" => "person.city"}, at) }.to raise_error(Invalid, /say value too/)
    expect { Work::Act.new({"kind" => "do_not_mail", "value" => false}, at).wanted }.to raise_error(Invalid, /a “no” ends on each record/)
    expect(Work::Act.new({"kind" => "owner", "owner_id" => nil}, at).wanted).to eq("person.owner" => nil)
  end

  it "tags, gives an owner, sets standing, fields, lists and consent, and takes each back" do
    list = Records::List.create(name: "Fair", created_at: now, updated_at: now)
    before = Records::Person.order(:id).map { |person| person.values.except(:version, :updated_at) }
    acts = [
      {kind: "tag", names: %w[press fair]},
      {kind: "owner", owner_id: maren.id},
      {kind: "standing", standing: "client"},
      {kind: "field", field: "person.city", value: "Ripon"},
      {kind: "field", field: "person.last_name", value: "Lark"},
      {kind: "list", list_id: list.id},
      {kind: "consent", consent: "yes", how: "card at the fair"},
      {kind: "do_not_mail", value: true},
      {kind: "bin"}
    ]
    sets = acts.map { |json| act(**json) }

    expect(sets.map(&:state).uniq).to eq(["done"])
    expect(
      Records::Person
        .order(:id)
        .map { |person| person.values.slice(:standing, :city, :consent, :consent_how, :do_not_mail, :owner_id) }
        .uniq
    ).to eq(
      [{standing: "client", city: "Ripon", consent: "yes", consent_how: "card at the fair", do_not_mail: true, owner_id: maren.id}]
    )
    expect([people.first.tags.map(&:name).sort, list.people.size, everybody.count]).to eq([%w[fair press], 3, 0])

    sets.reverse_each { |set| expect(undo(set)).to have_attributes(state: "undone", kept: 0) }
    expect(Records::Person.order(:id).map { |person| person.values.except(:version, :updated_at) }).to eq(before)
    expect([people.first.refresh.tags, list.refresh.people]).to eq([[], []])
  end

  it "dates a standing whichever way it is set, and takes the day back with it" do
    set = act(kind: "field", field: "person.standing", value: "client")
    expect(values(:standing_since)).to all(eq(Date.new(2026, 5, 12)))
    undo(set)
    expect(values(:standing_since)).to all(be_nil)
  end

  it "says in words what it did, and in each history" do
    set = act(everybody.where(city: %w[York Hull]), kind: "tag", names: ["press"])

    expect(set).to have_attributes(words: "Tagged 2 people press", total: 2, handled: 2)
    told = Records::Event.where(person_id: people.first.id).all
    words =
      Web::HistoryWords.new(told, moment).entries.map { |entry| entry.values_at(:words, :detail) }
    expect(words).to eq([["Tagged press", "changed together with others"]])
  end

  it "leaves alone at undo what somebody changed since, and says whose" do
    set = act(kind: "field", field: "person.city", value: "Ripon")
    change_person(people.first, {"person.city" => "Whitby"}, at)

    expect(undo(set)).to have_attributes(state: "undone", kept: 1)
    expect(values(:city)).to eq(%w[Whitby Hull Leeds])
    expect(set.entries_dataset.where(state: "kept").select_map(:person_id)).to eq([people.first.id])
  end

  it "counts nobody twice, and does not touch who is so already" do
    people.first.update(city: "Ripon")
    set = act(kind: "field", field: "person.city", value: "Ripon")

    expect(set.entries_dataset.group_and_count(:state).as_hash(:state, :count)).to eq("done" => 2, "nothing" => 1)
    expect(people.first.refresh.version).to eq(1)
  end

  it "goes on in the background when there are many, and can be stopped by taking it back" do
    stub_const("NimbleLetter::Work::ChangeMany::SLICE", 1)
    stub_const("NimbleLetter::Work::ChangeMany::AT_ONCE", 1)
    set = act(kind: "field", field: "person.city", value: "Ripon")
    expect(set).to have_attributes(state: "waiting", handled: 1, total: 3)

    Work::Clerk.new("/nowhere", Records::Owner.new(configuration)).round(now)
    expect(values(:city)).to eq(%w[Ripon Ripon Leeds])
    undo(set)
    Work::Clerk.new("/nowhere", Records::Owner.new(configuration)).finish(now)
    expect([set.refresh.state, values(:city)]).to eq(["undone", %w[York Hull Leeds]])
  end

  it "finds people by the new words after a name was set" do
    act(kind: "field", field: "person.last_name", value: "Ćwiek")

    expect(everybody.with_words("cwiek").count).to eq(3)
  end

  it "refuses what cannot be, before anything is written" do
    {
      {kind: "fly"} => "act.kind",
      {kind: "tag", names: [" "]} => "act.names",
      {kind: "list", list_id: 0} => "act.list_id",
      {kind: "owner", owner_id: 0} => "act.owner_id",
      {kind: "standing", standing: "king"} => "act.standing",
      {kind: "field", field: "person.email", value: "a@b.example"} => "act.field",
      {kind: "field", field: "person.birthday", value: "soon"} => "person.birthday",
      {kind: "consent", consent: "perhaps"} => "act.consent",
      {kind: "field", field: "person.time_zone", value: "Moon/Sea"} => "act.value"
    }.each { |json, where| expect { act(**json) }.to raise_error(Error) { |error| expect(error.at).to eq(where) } }
    expect { act(everybody.where(city: "Nowhere"), kind: "bin") }.to raise_error(Invalid, /Nobody is chosen/)
    expect(Records::ChangeSet.count).to eq(0)
  end

  describe "the bin" do
    it "takes people out of every question and every sequence, and gives them back" do
      sequence = start(make_sequence(people: people))
      set = act(everybody.where(city: "York"), kind: "bin")

      expect(everybody.count).to eq(2)
      expect(Records::Member.first(person_id: people.first.id)).to have_attributes(state: "left", left_reason: "in_the_bin")
      expect(moment.sieving(moment.audience({"people" => people.map(&:id)})).account[:matching]).to eq(2)
      expect(figures(sequence)["planned"]).to eq(6)
      undo(set)
      expect(everybody.count).to eq(3)
    end

    it "is emptied after thirty days: who it was goes, what happened stays" do
      Records::Event.create(kind: "note", person_id: people.first.id, occurred_at: now)
      act(everybody.where(city: "York"), kind: "bin")
      expect(Work::PutInBin.empty_old(moment(now + 29 * 86_400))).to eq(0)
      expect(Work::PutInBin.empty_old(moment(now + 31 * 86_400))).to eq(1)

      emptied = people.first.refresh
      expect(emptied.values.values_at(:first_name, :last_name, :email, :search_fold, :city, :phone)).to all(be_nil)
      expect([emptied.name, Records::Event.where(person_id: emptied.id, kind: "note").count]).to eq(["A removed record", 1])
    end
  end
end
