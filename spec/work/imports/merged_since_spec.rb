# frozen_string_literal: true

# Between the check of a file and the word to take it in, colleagues go on.
RSpec.describe Work::MergedSince do
  around { |example| Dir.mktmpdir { |folder| (@folder = folder) && example.run } }

  let(:maren) { make_account }
  let(:at) { moment(account: maren) }
  let!(:ana) { make_person(email: "ana@oyster.example", city: "York") }
  let!(:double) { make_person(email: "ana@home.example", city: "Leeds") }

  def checked(text)
    receiving = Work::ReceiveImport.new(@folder, at)
    import = receiving.receive(StringIO.new(text), name: "people.csv")
    matching = receiving.columns(import).map { |column| column[:field] }
    Work::StartImport.check(import, matching, {}, version: import.version, folder: @folder, moment: at)
    finish(import)
  end

  def take(import)
    Work::StartImport.take(import, {}, version: import.version, moment: at)
    finish(import)
  end

  def finish(import)
    Work::Clerk.new(@folder, Records::Owner.new(configuration)).finish(now)
    import.refresh
  end

  def merge(kept, gone) = Work::MergeRecords.call(kept.refresh, gone.refresh, {}, versions: [kept.version, gone.version], moment: at)

  it "takes a row in where the record went, and back from there" do
    import = checked("Email,Town,Tags\nana@home.example,Hull,press\n")
    merge(ana, double)
    take(import)
    expect([ana.refresh.city, ana.tags.map(&:name), double.refresh.city]).to eq(["Hull", ["press"], "Leeds"])

    Work::TakeBack.start(import.change_set, moment: at)
    finish(import)
    expect([ana.refresh.city, ana.tags_dataset.count]).to eq(["York", 0])
  end

  it "follows one merge after the other, and goes by what the file says of the record that stayed" do
    other = make_person(email: "a.lark@desk.example")
    import = checked("Email,Town,Tags\nana@home.example,Hull,press\na.lark@desk.example,Ripon,trade\n")
    merge(other, double)
    merge(ana, other)
    expect(described_class.stayed([ana.id, other.id, double.id])).to eq(double.id => ana.id, other.id => ana.id)
    take(import)
    expect(ana.refresh.tags.map(&:name)).to contain_exactly("press", "trade")
    expect(%w[Hull Ripon]).to include(ana.city)
  end

  it "stays with a record whose merge was taken back" do
    import = checked("Email,Town\nana@home.example,Hull\n")
    Work::TakeBack.start(merge(ana, double), moment: at)
    take(import)
    expect([ana.refresh.city, double.refresh.city]).to eq(%w[York Hull])
  end
end
