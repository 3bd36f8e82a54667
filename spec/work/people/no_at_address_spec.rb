# frozen_string_literal: true

RSpec.describe "a no belongs to the address" do
  let(:email) { "both@copperladle.example" }
  let!(:first) { make_person(email: email, first_name: "Ana") }
  let!(:second) { make_person(email: email, first_name: "Bo") }
  let!(:maren) { make_account }
  let(:at) { moment(account: maren) }

  def reason(person) = moment.sieving(moment.audience({"people" => [person.id]})).reasons.find { |one| reaches?(person, one) }&.key

  def reaches?(person, one)
    moment.sieving(moment.audience({"people" => [person.id]})).people_of(one.key).where(Sequel[:people][:id] => person.id).any?
  end

  def act(json, *people)
    Work::ChangeMany.start(Work::Act.new(json, at), Records::Person.where(id: people.map(&:id)), moment: at)
  end

  def due_now(sequence) = Records::Delivery.where(sequence_id: sequence.id, state: "due").update(due_at: now)

  it "holds for every record with it, however it was said" do
    {
      "by hand" => -> { change_person(first, {"person.do_not_mail" => true}, at) },
      "as consent" => -> { change_person(first, {"person.consent" => "no"}, at) },
      "for many" => -> { act({"kind" => "consent", "value" => "no", "consent" => "no", "how" => "told us"}, first) },
      "as do-not-mail for many" => -> { act({"kind" => "do_not_mail", "value" => true}, first) },
      "by unsubscribing" => -> { Work::Happening.call("unsubscribed", at: now, person_id: first.id) },
      "by a complaint" => -> { Work::Happening.call("complained", at: now, person_id: first.id) },
      "by an address that fails" => -> { Work::Happening.call("bounced", at: now, person_id: first.id) }
    }.each do |how, said|
      Records.db.transaction(savepoint: true, rollback: :always) do
        expect([reason(first), reason(second)]).to eq([nil, nil]), how
        said.call
        expect([reason(first).nil?, reason(second)]).to eq([false, "no_at_address"]), how
        expect(Core::Sieve.reason_for("person.email" => email, "person.no_at_address" => true)&.key).to eq("no_at_address")
      end
    end
  end

  it "ends what runs at the address, under every record, and nothing more is sent" do
    sequence = start(make_sequence(people: [second]), at: now - 3600)
    Work::Happening.call("unsubscribed", at: now, person_id: first.id)

    expect(Records::Member.first(person_id: second.id)).to have_attributes(state: "left", left_reason: "no_at_address")
    expect(figures(sequence)).to include("planned" => 2, "skipped" => 2)
  end

  it "is heard in the bin, and when somebody is brought in anew" do
    second.delete
    name = first.last_name
    Work::Happening.call("unsubscribed", at: now, person_id: first.id)
    act({"kind" => "bin"}, first)
    anew = Work::ChangePerson.create({"person.last_name" => "Lark", "person.email" => " BOTH@copperladle.example "}, moment: at)
    expect(reason(anew)).to eq("no_at_address")

    Records.db[:people].where(id: first.id).update(deleted_at: now - 40 * 86_400)
    Work::PutInBin.empty_old(at)
    expect(first.refresh.email).to be_nil
    expect([reason(anew.refresh), Records::BlockedAddress.select_map(%i[value reason])]).to eq(
      ["address_blocked", [[email, "Ana #{name}: asked not to be written to"]]]
    )
  end

  it "stays with the address and goes along with the record when it moves" do
    change_person(first, {"person.do_not_mail" => true}, at)
    change_person(first, {"person.email" => "new@copperladle.example"}, at)
    expect([reason(first), reason(second)]).to eq(%w[do_not_mail address_blocked])

    third = make_person(email: "failed@copperladle.example")
    Work::Happening.call("bounced", at: now, person_id: third.id)
    change_person(third, {"person.email" => "mended@copperladle.example"}, at)
    expect(reason(third)).to be_nil
    anew = Work::ChangePerson.create({"person.last_name" => "X", "person.email" => "failed@copperladle.example"}, moment: at)
    expect(reason(anew)).to eq("address_blocked")
  end

  it "of either record is one of both when they are merged, whichever fields were picked, and is parted again with them" do
    {"do_not_mail" => true, "consent" => "no"}.each do |name, value|
      [[first, second], [second, first]].each do |kept, gone|
        Records.db.transaction(savepoint: true, rollback: :always) do
          change_person(gone, {"person.#{name}" => value}, at)
          change_person(gone, {"person.email" => "other@copperladle.example"}, at)
          Records::BlockedAddress.dataset.delete
          change_person(kept, {"person.consent" => "yes"}, at) if name == "consent"
          set = Work::MergeRecords.call(kept.refresh, gone.refresh, {}, versions: [kept.version, gone.version], moment: at)
          expect(kept.refresh[name.to_sym]).to eq(value)
          Work::TakeBack.start(set, moment: at)
          expect([kept.refresh[name.to_sym], gone.refresh[name.to_sym]]).not_to eq([value, value])
        end
      end
    end
  end

  it "goes with the act that brought it when that is taken back, and is somebody's to take back by hand" do
    set = act({"kind" => "do_not_mail", "value" => true}, first)
    expect(reason(second.refresh)).to eq("no_at_address")
    Work::TakeBack.start(set, moment: at)
    expect([reason(first.refresh), reason(second.refresh)]).to eq([nil, nil])

    change_person(first, {"person.consent" => "no", "person.do_not_mail" => true}, at)
    expect { Work::TakeNoBack.call(second.refresh, " ", moment: at) }.to raise_error(Invalid, /how you know/)
    Work::TakeNoBack.call(second.refresh, "asked for the spring letter", moment: at)
    expect([reason(first.refresh), reason(second.refresh)]).to eq([nil, nil])
    expect(first).to have_attributes(consent: "yes", consent_on: at.today, consent_by_id: maren.id)
    expect(first.consent_how).to eq("asked for the spring letter")
    said = Records::Event.where(person_id: first.id, kind: "field_changed").order(:id).last
    expect([said.account_id, said.data]).to eq(
      [maren.id, {"field" => "person.no_at_address", "from" => true, "to" => false, "how" => "asked for the spring letter"}]
    )
    expect { Work::TakeNoBack.call(second.refresh, "again", moment: at) }.to raise_error(Invalid, /says no/)
  end

  it "lets nobody into a sequence whose address is in it under another record" do
    sequence = start(make_sequence(people: [second]))
    joining = moment.sieving(moment.audience({"people" => [first.id, second.id]}), sequence_id: sequence.id)

    expect(joining.people_of("same_address").select_map(Sequel[:people][:id])).to eq([first.id])
    expect(joining.would_get_it).to eq([])
    alone = moment.sieving(moment.audience({"people" => [first.id]}), sequence_id: sequence.id)
    expect([alone.would_get_it, alone.account[:would_get_it]]).to eq([[], 0])
  end

  it "is asked once more before a letter leaves" do
    other = make_person
    sequence = start(make_sequence(people: [first, other]), at: now - 3600)
    transport = ToldTransport.new(Post::Outcomes::Accepted.new("250"))
    # As no act of ours does it.
    Records.db[:people].where(id: other.id).update(do_not_mail: true)
    due_now(sequence)
    worker(transport: transport).dispatch_due(Time.utc(2026, 5, 12, 10))

    expect(transport.delivered.map { |one| one[:to] }).to eq([email])
    reasons = Records::Member.where(sequence_id: sequence.id).select_hash(:person_id, :left_reason)
    expect(reasons).to eq(first.id => nil, other.id => "do_not_mail")
  end

  it "sends one letter to an address that two members came to share" do
    other = make_person
    sequence = start(make_sequence(people: [first, other]), at: now - 3600)
    change_person(other, {"person.email" => email}, at)
    due_now(sequence)
    transport = ToldTransport.new(Post::Outcomes::Accepted.new("250"))
    worker(transport: transport).dispatch_due(Time.utc(2026, 5, 12, 10))

    expect(transport.delivered.map { |one| one[:to] }).to eq([email])
    expect(Records::Member.where(sequence_id: sequence.id).select_map(:left_reason)).to contain_exactly(nil, "same_address")
  end

  describe "where plus signs come in" do
    let!(:tagged) { make_person(email: "both+News@copperladle.example", first_name: "Cai") }

    def choose(plus_tags) = Work::ChoosePlusTags.call(plus_tags, moment: moment(account: make_account(role: "admin")))

    def reasons = [first, second, tagged].map { |person| reason(person.refresh) }

    it "tells them apart, or not, as the firm chooses, and takes effect both ways" do
      change_person(first, {"person.do_not_mail" => true}, at)
      expect(reasons).to eq(["do_not_mail", "no_at_address", nil])
      sequence = start(make_sequence(people: [tagged]))

      choose("same")
      expect(reasons).to eq(%w[do_not_mail no_at_address no_at_address])
      expect(sequence.members_dataset.first).to have_attributes(state: "left", left_reason: "no_at_address")
      anew = Work::ChangePerson.create({"person.last_name" => "Dee", "person.email" => "Both+more+more@copperladle.example"}, moment: at)
      expect(reason(anew)).to eq("no_at_address")

      choose("different")
      expect([*reasons, reason(anew.refresh)]).to eq(["do_not_mail", "no_at_address", nil, nil])
    end

    it "counts for the do-not-mail list, whichever of them is on it, and for what comes in files" do
      Work::BlockAddress.put(kind: "address", value: "both+a@copperladle.example", reason: "asked", moment: at)
      expect(reasons).to eq([nil, nil, nil])
      choose("same")
      expect(reasons).to eq(%w[address_blocked] * 3)
      expect(Records::BlockedAddress.first.people.count).to eq(3)
      rows = [{"person.last_name" => "Eve", "person.email" => "both+b@copperladle.example"}]
      id = Work::ImportNew.new(Work::ImportMarks.new(rows, at), at).make(rows).first
      expect(reason(Records::Person[id])).to eq("address_blocked")

      Work::TakeNoBack.call(tagged.refresh, "rang us", moment: at)
      expect([*reasons, reason(Records::Person[id])]).to all(be_nil)
    end

    it "lets one of them in, and one letter out" do
      choose("same")
      all = moment.audience({"people" => [first.id, second.id, tagged.id]})
      expect(moment.sieving(all).would_get_it).to eq([first.id])
      sequence = start(make_sequence(people: [tagged]))
      expect(moment.sieving(all, sequence_id: sequence.id).people_of("same_address").count).to eq(2)

      other = make_person(email: "apart@copperladle.example")
      both = start(make_sequence(people: [other, second]), at: now - 3600)
      change_person(other, {"person.email" => "both+x@copperladle.example"}, at)
      Records::Delivery.where(sequence_id: both.id, state: "due").update(due_at: now)
      worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250"))).dispatch_due(Time.utc(2026, 5, 12, 10))
      expect(both.members_dataset.select_map(:left_reason)).to contain_exactly(nil, "same_address")
    end

    it "leaves alone what begins with one, and what has no address" do
      {"+a@x.example" => "+a@x.example", "a+@x.example" => "a@x.example", "a+b+c@x.example" => "a@x.example", "x.example" => "x.example",
       nil => nil}.each { |fold, trunk| expect(Core::SameAddress.trunk(fold)).to eq(trunk) }
    end
  end

  describe "is not edited away" do
    let(:refused) { raise_error(Invalid) { |error| expect(error.code).to eq(:says_no) } }

    it "on the record: neither a mark nor consent" do
      change_person(first, {"person.do_not_mail" => true, "person.consent" => "no"}, at)
      Work::Happening.call("bounced", at: now, person_id: first.id)
      [{"person.do_not_mail" => false}, {"person.address_failed" => false}, {"person.consent" => "yes"}, {"person.consent" => "unknown"},
        {"person.city" => "Hull", "person.do_not_mail" => false}].each { |values| expect { change_person(first, values, at) }.to refused }
      expect(first.refresh).to have_attributes(do_not_mail: true, address_failed: true, consent: "no", city: "York")
    end

    it "in bulk, by a step of a plan, by a merge or by a file: those who say no keep it, with its day and reason" do
      change_person(first, {"person.consent" => "no", "person.consent_how" => "on the telephone"}, at)
      before = first.refresh.values.slice(:consent, :consent_on, :consent_how)
      later = moment(now + 9 * 86_400, account: maren)
      yes = Work::Act.new({"kind" => "consent", "consent" => "yes", "how" => "a card"}, later)
      Work::ChangeMany.start(yes, Records::Person.where(id: [first.id, second.id]), moment: later)
      Work::RecordState.new(later).change([first.id], {"person.consent" => "unknown", "person.do_not_mail" => false})
      picked = {"person.consent" => "yes", "person.consent_how" => "a card"}
      Work::MergeRecords.call(first.refresh, second.refresh, picked, versions: [first.version, second.version], moment: later)
      expect([first.refresh.values.slice(*before.keys), second.refresh.consent]).to eq([before, "yes"])
    end
  end

  describe "with several sources" do
    it "outlasts the undo of one of them" do
      mark = {"kind" => "do_not_mail", "value" => true}
      sets = Array.new(2) { act(mark, first) }
      Work::TakeBack.start(sets.first, moment: at)
      expect(first.refresh.do_not_mail).to be(true)
      Work::Happening.call("unsubscribed", at: now, person_id: first.id)
      expect([Work::TakeBack.start(sets.last, moment: at).kept, first.refresh.do_not_mail]).to eq([1, true])

      merged = Work::MergeRecords.call(second, other = make_person(do_not_mail: true), {}, versions: [1, 1], moment: at)
      Work::Happening.call("unsubscribed", at: now, person_id: second.id)
      Work::TakeBack.start(merged, moment: at)
      expect([second.refresh.do_not_mail, other.refresh.do_not_mail]).to eq([true, true])
    end

    it "is on the list or off it after the undo of a merge as somebody has said meanwhile" do
      merge = -> { Work::MergeRecords.call(first.refresh, second.refresh, {}, versions: [first.version, second.version], moment: at) }
      undo = ->(set) { Work::TakeBack.start(Records::ChangeSet[set.id], moment: at) }
      marks = -> { [first, second].map { |one| one.refresh.address_blocked } }
      set = merge.call
      entry = Work::BlockAddress.put(kind: "address", value: email, reason: "asked", moment: at)
      undo.call(set)
      expect(marks.call).to eq([true, true])
      set = merge.call
      Work::BlockAddress.take_off(entry, moment: at)
      undo.call(set)
      expect(marks.call).to eq([false, false])
    end
  end

  describe "that slipped" do
    it "is found once a day, mended, and said where people look" do
      third = make_person(email: "quiet@copperladle.example")
      Records.db[:people].where(id: first.id).update(do_not_mail: true)
      Records::BlockedAddress.insert(kind: "address", value: third.email, value_fold: third.email, value_trunk: third.email,
        reason: "asked", created_at: now)
      stale = make_person(email: "free@copperladle.example")
      Records.db[:people].where(id: stale.id).update(no_at_address: true, address_blocked: true)
      expect([Work::SweepNoes.daily(at), Work::SweepNoes.daily(at)]).to eq([4, 0])
      reasons = [first, second, third, stale].map { |one| reason(one.refresh) }
      expect(reasons).to eq(["do_not_mail", "no_at_address", "address_blocked", nil])
      expect(Records::SetAside.where(kind: "no").order(:key).select_map(:key)).to eq([first, second, third].map { |one| one.id.to_s }.sort)
      later = moment(now + 86_400)
      expect(Work::SweepNoes.daily(later)).to eq(0)
      Work::TakeUp.new(Records::SetAside.where(kind: "no").first, at).leave
      expect(Records::SetAside.count).to eq(2)
    end
  end
end
