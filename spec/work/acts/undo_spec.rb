# frozen_string_literal: true

# What is live after an undo is what was live before the act: compared as dumps of the tables, but for versions and times of
# change, and for the events that tell of both.
RSpec.describe "undo means undone", :own_fields do
  # What an undo may leave different, by table: numbers of rows made anew, and when and how often a record was touched.
  let(:apart) do
    {
      people: %i[version updated_at],
      people_tags: [],
      list_people: [],
      person_addresses: %i[id],
      personal_lines: [],
      letter_fills: [],
      deals: %i[version updated_at],
      deliveries: []
    }
  end
  let(:random) { Random.new(RSpec.configuration.seed) }
  let(:maren) { make_account }
  let(:at) { moment(account: maren) }
  let(:tags) { %w[press fair felt] }
  let(:lists) { Array.new(2) { |n| Work::KeepList.make("List #{n}", Records::Person.where(id: -1), moment: at) } }

  before { make_own_fields }

  def pick(list) = list.sample(random: random)

  def dump
    apart.to_h do |table, without|
      [table, Records.db[table].all.map { |row| row.except(*without).transform_values(&:to_s) }.sort_by(&:to_s)]
    end
  end

  # @return [Array] of the table, the row and, where there is one of the same number, what is different in it
  def differences(one, other)
    one.keys.flat_map do |table|
      gone, come = one[table] - other[table], other[table] - one[table]
      gone.map { |row| [table, row[:id] || row, changed(row, come)] } + come.map { |row| [table, row[:id] || row, :come] }
    end
  end

  def changed(row, come)
    same = come.find { |another| row[:id] && another[:id] == row[:id] }
    same ? row.reject { |name, value| same[name] == value } : :gone
  end

  def any_act
    case random.rand(11)
    when 0 then {"kind" => "tag", "names" => tags.sample(2, random: random)}
    when 1 then {"kind" => "untag", "names" => [pick(tags)]}
    when 2 then {"kind" => pick(%w[list unlist]), "list_id" => pick(lists).id}
    when 3 then {"kind" => "owner", "owner_id" => pick([nil, maren.id])}
    when 4 then {"kind" => "standing", "standing" => pick(%w[lead client partner former_client])}
    when 5 then {"kind" => "field", "field" => "person.city", "value" => pick(["York", "", "Hull", "yörk"])}
    when 6 then {"kind" => "field", "field" => "person.x_rooms", "value" => pick([%w[hall bar], %w[bar hall], %w[hall], []])}
    when 7 then {"kind" => "field", "field" => pick(%w[person.x_height person.x_budget]), "value" => pick([1, 2.5, nil])}
    when 8 then {"kind" => "consent", "consent" => pick(%w[yes no unknown]), "how" => pick([nil, "told us"])}
    when 9 then {"kind" => "do_not_mail", "value" => true}
    else {"kind" => pick(%w[bin restore])}
    end
  end

  def some_people = Records::Person.where(id: @people.sample(1 + random.rand(4), random: random))

  # @return [Records::ChangeSet]
  def act_or_merge
    return Work::ChangeMany.start(Work::Act.new(any_act, at), some_people, moment: at) unless random.rand(8).zero?

    kept, gone = Records::Person.kept.where(id: @people).all.sample(2, random: random)
    return act_or_merge unless gone

    picked = random.rand(2).zero? ? {"person.city" => gone.city, "person.consent" => gone.consent} : {}
    Work::MergeRecords.call(kept, gone, picked, versions: [kept.version, gone.version], moment: at)
  end

  def make_people
    sequence = make_sequence(people: [])
    @people = Array.new(8) do |n|
      person = make_person(email: "shared#{n / 2}@copperladle.example")
      Records::PersonAddress.create(person_id: person.id, email: "further#{n}@copperladle.example")
      step = sequence.steps.first.id
      Records.db[:personal_lines].insert(step_id: step, person_id: person.id, line: "{}", updated_at: now) if n.even?
      Records.db[:letter_fills].insert(step_id: step, person_id: person.id, field: "person.city", value: "York", updated_at: now) if n.odd?
      Work::Happening.call("replied", at: now - n * 3600, person_id: person.id) if n > 2
      Records::Deal.create(person_id: person.id, name: "Room", stage: "measured", created_at: now, updated_at: now)
      person.id
    end
  end

  it "holds for hundreds of acts of every kind, and merges, taken back in any order" do
    make_people
    60.times do |n|
      before = dump
      sets = Array.new(5) { act_or_merge }
      in_order = n.even?
      (in_order ? sets.reverse : sets.shuffle(random: random)).each do |set|
        undone = Work::TakeBack.start(Records::ChangeSet[set.id], moment: at)
        expect(undone.state).to eq("undone"), set.words
        # In another order a part may be held by another act by then.
        expect(undone.kept).to eq(0), set.words if in_order
      end
      expect(differences(before, dump)).to eq([]), sets.map(&:words).join(", ")
    end
  end

  # Where everybody stands, and which letter is open: its time is reckoned again for those who come back.
  def memberships
    places = Records::Member.order(:id).map { |one| one.values.slice(:id, :person_id, :state, :step_id, :round, :left_reason, :waits_for) }
    letters = Records::Delivery.exclude(state: "skipped").order(:member_id, :step_id).select_map(%i[member_id person_id step_id state])
    [places, letters, Records::Sequence.order(:id).map { |one| [one.state, one.audience] }, once]
  end

  # What a person has once for each step.
  def once
    fills = Records.db[:letter_fills].select_map(%i[step_id person_id field member_id value])
    fills + Records.db[:personal_lines].select_map(%i[id step_id person_id])
  end

  it "holds for who is in which sequence, whichever acts and merges took them out, in any order" do
    make_people
    [@people.first(5), @people.last(5)].each { |ids| start(make_sequence(people: Records::Person.where(id: ids).all), at: now) }
    16.times do
      before = memberships
      sets = Array.new(4) { act_or_merge }
      order = sets.shuffle(random: random)
      order.each { |set| Work::TakeBack.start(Records::ChangeSet[set.id], moment: at) }
      moved = memberships.zip(before).map { |now, was| [now - was, was - now] }
      expect(moved).to eq([[[], []]] * 4), "#{sets.map(&:words).join(", ")}, undone as #{order.map(&:words).join(", ")}: #{moved}"
    end
  end

  it "takes several choices back however they were put in order" do
    person = make_person
    set = Work::ChangeMany.start(Work::Act.new({"kind" => "field", "field" => "person.x_rooms", "value" => %w[hall bar]}, at),
      Records::Person.where(id: person.id), moment: at)
    undone = Work::TakeBack.start(set, moment: at)

    expect([undone.kept, Records.db[:people].where(id: person.id).get(:x_rooms)]).to eq([0, nil])
  end

  context "with people in a sequence" do
    let(:opened) { Time.utc(2026, 5, 12, 10, 20) }
    let(:people) { Array.new(3) { make_person } }
    let(:sequence) { start(make_sequence(people: people), at: opened) }
    let(:at) { moment(opened + 60) }

    def places = Records::Member.order(:id).map { |member| [member.values.except(:waits_for), member.waits_for] }

    def letters = Records::Delivery.order(:id).map { |letter| letter.values.slice(:member_id, :step_id, :state, :due_at, :reason) }

    def act(json, *whom) = Work::ChangeMany.start(Work::Act.new(json, at), Records::Person.where(id: whom.map(&:id)), moment: at)

    def merge(kept, gone) =
      Work::MergeRecords.call(kept.refresh, gone.refresh, {}, versions: [kept.version, gone.version], moment: at)

    before { sequence }

    it "has them at the same place afterwards, whatever was done to them" do
      stood = [places, letters]
      in_it = {"sequence_id" => sequence.id}
      second = sequence.steps.last.id
      acts = {
        "taken out" => -> { act({"kind" => "take_out", **in_it}, people[0]) },
        "paused" => -> { act({"kind" => "pause", **in_it}, *people) },
        "skipped" => -> { act({"kind" => "skip_step", **in_it}, people[1]) },
        "moved" => -> { act({"kind" => "move_to", "step_id" => second, **in_it}, people[1]) },
        "binned" => -> { act({"kind" => "bin"}, people[2]) },
        "merged" => -> { merge(people[0], people[1]) }
      }
      acts.each do |words, done|
        set = done.call
        expect([places, letters]).not_to eq(stood), words
        undone = Work::TakeBack.start(set, moment: at)
        expect([undone.kept, Work::StaysOut.count(undone)]).to eq([0, 0]), words
        # A letter that was called back and one of a step that was come to early stand there as skipped, and nobody has them.
        open = letters.reject { |letter| letter[:state] == "skipped" }
        expect([places, open]).to eq(stood), words
      end
      stories = Records::Event.where(sequence_id: sequence.id).select_map(:kind)
      expect(stories).to include("came_back", "member_paused", "member_went_on", "member_moved", "left")
    end

    it "says which places an undo does not bring back: those of a sequence that has ended meanwhile" do
      merged = merge(people[0], people[1])
      binned = act({"kind" => "bin"}, people[2])
      Work::RunSequence.call(sequence.refresh, "stop", moment: at)
      expect([merged, binned].map { |set| Work::StaysOut.count(set) }).to eq([0, 0])

      expect([merged, binned].map { |set| Work::StaysOut.count(Work::TakeBack.start(set, moment: at)) }).to eq([1, 1])
      expect(Records::Member.active.count).to eq(0)
    end

    it "makes one record of three that were all in it, and three again, in any order" do
      stood = places
      [[0, 1], [1, 0]].each do |order|
        sets = [merge(people[0], people[1]), merge(people[2], people[0])]
        expect(Records::Member.where(person_id: people[2].id).order(:round).select_map(%i[round state]))
          .to eq([[1, "active"], [2, "left"], [3, "left"]])
        order.each { |n| Work::TakeBack.start(sets[n].refresh, moment: at) }
        expect(places).to eq(stood), order.to_s
      end
    end

    it "gives back what was merged into a record that had been taken out of the bin, in any order" do
      step = sequence.steps.first.id
      lines = ->(n) { Records.db[:personal_lines].where(step_id: step, person_id: people[n].id) }
      fills = ->(n) { Records.db[:letter_fills].where(step_id: step, person_id: people[n].id) }
      [1, 2].each do |n|
        Records.db[:personal_lines].insert(step_id: step, person_id: people[n].id, line: "{}", updated_at: now)
        Records.db[:letter_fills].insert(step_id: step, person_id: people[n].id, field: "person.city", value: n.to_s, updated_at: now)
      end
      stood = -> { [places, [0, 1, 2].map { |n| [lines.call(n).select_map(:id), fills.call(n).select_map(:value)] }] }
      before = stood.call
      [0, 1, 2].permutation.each do |order|
        sets = [merge(people[0], people[1]), act({"kind" => "restore"}, people[1]), merge(people[1], people[2])]
        order.each { |n| Work::TakeBack.start(sets[n].refresh, moment: at) }
        expect(stood.call).to eq(before), order.to_s
      end
    end

    it "leaves the records themselves alone, which a colleague may be typing into" do
      expect { Work::TakeBack.start(act({"kind" => "pause", "sequence_id" => sequence.id}, people[0]), moment: at) }
        .not_to(change { Records.db[:people].where(id: people[0].id).get(:version) })
    end

    it "keeps the further of two members when their records become one" do
      act({"kind" => "move_to", "step_id" => sequence.steps.last.id, "sequence_id" => sequence.id}, people[1])
      merge(people[0], people[1])
      going = Records::Member.active.where(person_id: people[0].id).all
      expect(going.map(&:step_id)).to eq([sequence.steps.last.id])
    end

    it "lets a letter of somebody who is paused wait" do
      Records::Delivery.dataset.update(due_at: opened)
      set = act({"kind" => "pause", "sequence_id" => sequence.id}, people[0])
      sending = -> { worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))).dispatch_due(opened + 60) }
      expect { sending.call }.to change { states(sequence)["sent"].to_i }.by(2)
      Work::TakeBack.start(set, moment: at)
      expect { sending.call }.to change { states(sequence)["sent"].to_i }.by(1)
    end
  end
end
