# frozen_string_literal: true

# The start goes by the numbers that were read back, and by what was looked at for them.
RSpec.describe "starting with what was seen" do
  let(:people) { Array.new(3) { make_person(city: "York") } }
  let(:letter) { make_letter(body: "How is {{city}}?") }
  let(:sequence) { make_sequence(people: people, letters: [letter, make_letter]) }
  let(:read_back) { Work::ReadyCheck.new(sequence, moment).call }

  def begin_with(**changed)
    Work::StartSequence.call(sequence.refresh, version: sequence.version, letters: read_back[:letters], seen: read_back[:seen],
      moment: moment, **changed)
  end

  it "starts, and everybody stands before their first letter" do
    begin_with
    expect(Records::Member.where(sequence_id: sequence.id).select_map(%i[state step_id waits_for])).to eq(
      [["active", sequence.steps.first.id, "time"]] * 3
    )
    due = Work::Outlook.new(sequence, moment).rows.map(&:first_at)
    expect(Records::Delivery.where(sequence_id: sequence.id).order(:person_id).select_map(:due_at)).to eq(due)
  end

  it "looks again when a record, a letter or a mailbox has changed since" do
    changes = [
      [-> { change_person(people.first, {"person.city" => nil}, moment) }, Conflict, /1 with a gap now, not 0/],
      [-> { letter.refresh.change!({body: document("About {{phone}}")}, version: letter.version, now: moment.now) }, Invalid, /missing/],
      [-> { Records::Mailbox.where(id: sequence.sender["mailbox_id"]).update(proved_at: nil) }, Invalid, /missing/]
    ]
    read_back
    changes.each do |change, error, words|
      Records.db.transaction(rollback: :always, savepoint: true) do
        change.call
        expect { begin_with }.to raise_error(error, words)
      end
    end
    expect(begin_with.state).to eq("running")
  end

  it "is refused because of an end date that is past, and for no other reason" do
    sequence.update(ends_at: now - 86_400)
    ready = Work::ReadyCheck.new(sequence.refresh, moment).call
    expect(ready[:remarks].map { |one| one.slice(:code, :blocking) }).to eq([{code: "end_past", blocking: true}])
    expect(ready[:remarks].first[:words]).to start_with("Its end date, 11 May 2026, is past")
    expect { begin_with }.to raise_error(Invalid) { |error| expect(error.data[:remarks].map { |one| one[:code] }).to eq(["end_past"]) }
  end

  it "believes no digest of something else" do
    people.first.update(city: nil)
    [nil, "", "0" * 64].each { |seen| expect { begin_with(seen: seen) }.to raise_error(Conflict, /with a gap/) }
  end

  it "leaves nobody waiting whom nobody was told of, whatever digest came with it" do
    people.first.update(city: nil)
    expect { begin_with }.to raise_error(Conflict) { |error| expect(error.data).to include(letters: 6, gaps: 1) }
    # The letter after it waits as well.
    expect(Work::ReadyCheck.new(sequence, moment).call).to include(letters: 6, gaps: 1, waiting: 2)
    expect { begin_with(gaps: 2) }.to raise_error(Conflict)
    expect(begin_with(gaps: 1).members_dataset.count).to eq(3)
  end

  it "is not stopped by a letter that is only for some, all of whom have a gap in it" do
    people.first.update(city: nil, job_title: "Head")
    heads = {"field" => "person.job_title", "is" => "contains", "value" => "Head"}
    sequence.steps.last.update(letter_id: letter.id, settings: {"only_for" => heads})
    sequence.steps.first.update(letter_id: make_letter.id)
    ready = Work::ReadyCheck.new(sequence.refresh, moment).call
    expect(ready).to include(ready: true, gaps: 1, remarks: [include(code: "gaps", blocking: false)])
  end

  it "stops where everybody has a gap in the same letter: then the letter is wrong" do
    read_back
    people.each { |person| person.update(city: nil) }
    expect { begin_with(gaps: 3) }.to raise_error(Invalid) { |error|
      expect(error.data[:remarks]).to match([include(code: "gaps", count: 3)])
    }
  end

  it "says beforehand what nobody would expect: that a mailbox needs months for it" do
    box = make_mailbox(daily_limit: 1)
    many = make_sequence(people: Array.new(12) { make_person }, letters: [make_letter, make_letter], mailbox: box)
    ready = Work::ReadyCheck.new(many, moment).call
    expect(ready[:ready]).to be(true)
    said = ready[:remarks].map { |remark| remark.values_at(:code, :blocking, :count) }
    expect(said).to eq([["takes_long", false, 24]])
    expect(ready[:remarks].first[:words]).to include("24 letters from #{box.address}, which sends 1 a day").and include("16 June 2026")
    expect(read_back[:remarks]).to eq([])
  end

  it "does not start what would never leave, since the mailbox sends at other hours" do
    box = make_mailbox(hours_from: 600, hours_to: 900)
    late = make_sequence(people: people, letters: [make_letter], mailbox: box)
    late.steps.first.update(zone: "ours", from_minute: 960, to_minute: 1020)
    remarks = -> { Work::ReadyCheck.new(late.refresh, moment).call[:remarks].map { |one| one[:code] } }
    expect(remarks.call).to eq(["never"])
    box.update(hours_to: 961)
    expect(remarks.call).to eq([])
  end

  it "says whom a letter would never reach, since it is night here when it is morning where they are" do
    box = make_mailbox(hours_from: 480, hours_to: 1080)
    away = Array.new(2) { make_person(time_zone: "Pacific/Auckland") }
    far = make_sequence(people: [*people, *away], letters: [make_letter], mailbox: box)
    ready = Work::ReadyCheck.new(far, moment)
    expect(ready.call[:ready]).to be(true)
    said = ready.call[:remarks].first
    expect(said).to include(code: "never_for_some", blocking: false, count: 2, step_id: far.steps.first.id)
    expect(said[:words]).to include("2 people").and include("by their clock").and include(box.address)
    expect(ready.never(far.steps.first.id)).to match_array(away.map(&:id))
    far.steps.first.update(zone: "ours")
    expect(Work::ReadyCheck.new(far.refresh, moment).call[:remarks]).to eq([])
  end

  it "says the numbers that moved" do
    expect { begin_with(letters: 5) }.to raise_error(Conflict, /6 letters now, not 5/)
  end
end

# Letters come from whoever starts it, also those of people who join later.
RSpec.describe "a sequence from whoever starts it" do
  it "comes from their own mailbox, or the one to fall back on" do
    maren, ivo = make_account, make_account(name: "Ivo Lund")
    box, own = make_mailbox, make_mailbox(account_id: ivo.id)
    sequence = make_sequence(people: [make_person], mailbox: box)
    sequence.update(sender: {"kind" => "starter", "mailbox_id" => box.id})
    from = ->(account) { Work::Sender.of(sequence, moment(account: account)).for(make_person) }
    expect([from.call(maren), from.call(ivo)]).to eq([box, own])
    Work::StartSequence.call(sequence, version: 1, letters: 2, moment: moment(account: ivo))
    expect([from.call(maren), sequence.members_dataset.get(:mailbox_id)]).to eq([own, own.id])
  end
end
