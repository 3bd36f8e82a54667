# frozen_string_literal: true

# A spreadsheet of somebody else's: what its columns are meant for, and what it leaves open.
RSpec.describe "matching the columns of a file" do
  around { |example| Dir.mktmpdir { |folder| (@folder = folder) && example.run } }

  let(:maren) { make_account }
  let(:at) { moment(account: maren) }

  def receive(text) = Work::ReceiveImport.new(@folder, at).receive(StringIO.new(text), name: "leads.csv")

  def say(import, matching) = Work::MatchColumns.new(import.refresh, @folder, at).say(matching, version: import.version)

  def check(import) =
    Work::StartImport.check(import.refresh, import.matching.map { |one| one["field"] }, {}, version: import.version, folder: @folder,
      moment: at)

  def own(label, type) = Work::OwnField.make({label: label, type: type}, moment: at)

  def asks(import) = import.refresh.reading.values_at("asks", "order", "decimal")

  let(:sheet) { ->(*rows) { ["E-Mail;Ort;Besuch;Umsatz", *rows].join("\r\n").encode("Windows-1252") } }

  it "asks about a field that was made a moment ago, before its column is there, and keeps what was said" do
    import = receive(sheet.call("ana@x.example;Köln;03/04/2026;1.234 €"))
    expect(import.refresh.matching.map { |one| one["field"] }).to eq(["person.email", "person.city", nil, nil])
    visit, turnover = own("Besuch", "date"), own("Umsatz", "money")
    say(import, ["person.email", "person.city", "person.x_besuch", "person.x_umsatz"])
    expect(asks(import)).to eq([{"order" => %w[dmy mdy], "decimal" => %w[. ,]}, nil, nil])
    expect(import.matching.last).to eq("field" => "person.x_umsatz", "by" => "hand")
    expect { check(import) }.to raise_error(Invalid) { |error| expect(error).to have_attributes(at: "reading.order") }
    Work::ReceiveImport.new(@folder, at).read_again(import.refresh, {"decimal" => ",", "order" => "dmy"}, version: import.version)
    expect([asks(import).drop(1), visit.made, turnover.made]).to eq([["dmy", ","], false, false])
    expect(check(import).state).to eq("checking")
  end

  it "asks nothing that the file answers itself, in whichever row" do
    rows = Array.new(500) { |n| "p#{n}@x.example;Köln;03/04/2026;1.234" }
    own("Besuch", "date")
    own("Umsatz", "money")
    matching = ["person.email", "person.city", "person.x_besuch", "person.x_umsatz"]
    import = receive(sheet.call(*rows, "q@x.example;Bonn;25/12/2025;1.234,50 €", "r@x.example;Bonn;bald;viel"))
    say(import, matching)
    expect(asks(import)).to eq([{}, "dmy", ","])
    # What somebody said stays said.
    Work::ReceiveImport.new(@folder, at).read_again(import.refresh, {"order" => "mdy"}, version: import.version)
    say(import, matching)
    expect(asks(import)).to eq([{}, "mdy", ","])
    contradicting = receive(sheet.call("a@x.example;Köln;25/12/2025;1", "b@x.example;Köln;12/25/2025;1"))
    say(contradicting, matching)
    expect(asks(contradicting)).to eq([{"order" => %w[dmy mdy]}, nil, nil])
  end

  it "takes dates for no phone numbers" do
    ["25/12/2025", "03.04.2026", "2026/04/03", "12-05-19", "1 April 2026"].each do |day|
      import = receive("Email,Since\na@x.example,#{day}\nb@x.example,#{day}\n")
      expect(import.refresh.matching.last["field"]).to be_nil, day
    end
    import = receive("Email,Reach\na@x.example,01632 960 101\nb@x.example,020 79 460 102\n")
    expect(import.refresh.matching.last["field"]).to eq("person.phone")
  end

  it "brings people in once, when two files with the same were checked before either was taken in" do
    people = ->(mark) { Array.new(30) { |n| "#{"p#{n}@x.example" if n.even?},Ana,Lark #{n},Felt,#{mark}" } }
    text = ->(mark) { ["Email,First name,Last name,Company,Tag", *people.call(mark)].join("\n") }
    clerks = Array.new(2) { Work::Clerk.new(@folder, Records::Owner.new(configuration)) }
    imports = %w[one two].map { |mark| receive(text.call(mark)) }
    imports.each { |import| check(import) }
    clerks.first.finish(now)
    imports.each { |import| Work::StartImport.take(import.refresh, {}, version: import.version, moment: at) }
    20.times { clerks.each { |clerk| clerk.round(now) } }

    expect(Records::Person.count).to eq(30)
    expect(imports.map { |import| import.refresh.counts }).to eq([{"new" => 30}, {"update" => 15, "doubtful" => 15}])
    expect(Records::Person.first(email: "p0@x.example").tags.map(&:name)).to contain_exactly("one", "two")
    back = CSV.parse(Work::RefusedRows.file(imports.last).read.force_encoding("UTF-8").delete_prefix("\uFEFF"))
    expect([back.size, back[1]]).to eq([16, [nil, "Ana", "Lark 1", "Felt", "two", "3", "Same name and company as another record."]])
    Work::TakeBack.start(imports.last.change_set, moment: at)
    expect(Records::Person.kept.count).to eq(30)
  end
end
