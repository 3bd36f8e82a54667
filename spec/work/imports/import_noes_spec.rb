# frozen_string_literal: true

# What a file says of addresses: those on its do-not-mail list leave their sequences, and come back when the file is taken back.
RSpec.describe Work::ImportNoes do
  around { |example| Dir.mktmpdir { |folder| (@folder = folder) && example.run } }

  let(:at) { moment(account: make_account) }
  let(:people) { Array.new(3) { |n| make_person(email: "ana#{n}@oyster.example") } }
  let!(:sequence) { start(make_sequence(people: people), at: now) }

  def bring(text, fields)
    import = Work::ReceiveImport.new(@folder, at).receive(StringIO.new(text), name: "people.csv")
    Work::StartImport.check(import, fields.map { |name| "person.#{name}" }, {}, version: import.version, folder: @folder, moment: at)
    clerk.finish(now)
    Work::StartImport.take(import.refresh, {}, version: import.version, moment: at)
    clerk.finish(now)
    import.refresh.change_set
  end

  def undo(set)
    Work::TakeBack.start(Records::ChangeSet[set.id], moment: at)
    clerk.finish(now)
    Records::ChangeSet[set.id]
  end

  def clerk = Work::Clerk.new(@folder, Records::Owner.new(configuration))

  def standing = Records::Member.order(:id).select_map(%i[state left_reason])

  it "takes out whom the file lists, and the undo brings them back, their sequence with them" do
    set = bring("Email,Listed\n#{people.map { |one| "#{one.email},yes\n" }.join}", %w[email address_blocked])
    expect([standing.uniq, sequence.refresh.state]).to eq([[%w[left address_blocked]], "ended"])
    undone = undo(set)
    expect([standing.uniq, sequence.refresh.state, Work::StaysOut.count(undone)]).to eq([[["active", nil]], "running", 0])
    expect([Records::BlockedAddress.count, Records::Person.where(address_blocked: true).count]).to eq([0, 0])
  end

  it "leaves out, and names, who is kept out by something else by then" do
    set = bring("Email,Listed,City\n#{people[0].email},yes,York\n#{people[1].email},yes,York\n", %w[email address_blocked city])
    Work::BlockAddress.put(kind: "domain", value: "oyster.example", reason: "asked by telephone", moment: at)
    undone = undo(set)
    expect([standing.map(&:first), sequence.refresh.state]).to eq([%w[left left left], "ended"])
    expect(Work::StaysOut.sequences(undone)).to eq([{name: sequence.name, state: "ended", people: 2}])
  end
end
