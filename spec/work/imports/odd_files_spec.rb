# frozen_string_literal: true

require "timeout"
require "tmpdir"
require "zip"

# Files as they come: damaged, cut off, of another kind than they say. Each is read or refused in words; nothing stalls and nothing is left
# behind. `FILES=10000` is the large form (bench/README.md).
RSpec.describe "files that are damaged" do
  # With a temporary folder of its own, to see what is left in it.
  around do |example|
    Dir.mktmpdir do |folder|
      before = ENV["TMPDIR"]
      @folder, ENV["TMPDIR"] = File.join(folder, "files"), File.join(folder, "tmp").tap { |one| Dir.mkdir(one) }
      example.run
    ensure
      ENV["TMPDIR"] = before
    end
  end

  let(:random) { Random.new(RSpec.configuration.seed) }
  let(:maren) { make_account }
  let(:at) { moment(account: maren) }
  let(:files) { Integer(ENV.fetch("FILES", 60)) }
  let(:odd) do
    ["\"", "\n", "\r", ",", ";", "\t", "\0", "\\", "=", "<", ">", "&", "\xFF", "\xE4", "BEGIN:VCARD\n", "END:VCARD", "KIND:group\n"]
  end

  def table = "E-Mail;Name;Besuch;Umsatz\nana@x.example;Ana Łark;03/04/2026;1.234,50\nbo@x.example;\"Bo;\n Smith\";2026-01-02;5\n"

  def cards = Work::ExportPeople.new(Records::Person.kept, format: "vcard", moment: at).file.read

  def workbook = Work::ExportPeople.new(Records::Person.kept, format: "xlsx", moment: at).file.read

  def originals =
    @originals ||= [table, table.encode("Windows-1250"), "\uFEFF#{table}".encode("UTF-16LE"), cards, workbook].map(&:b)

  def mutated(bytes)
    (1 + random.rand(8)).times do
      at, length = random.rand(bytes.size + 1), random.rand(40)
      case random.rand(6)
      when 0 then bytes = bytes[0, at].to_s
      when 1 then bytes = bytes[0, at].to_s + odd.sample(random: random).b * (1 + random.rand(30)) + bytes[at..].to_s
      when 2 then bytes = bytes[0, at].to_s + bytes[(at + length)..].to_s
      when 3 then bytes = bytes[0, at].to_s + bytes[at, length].to_s * (1 + random.rand(20)) + bytes[at..].to_s
      when 4 then bytes = bytes.dup.tap { |text| length.times { text.setbyte(random.rand(text.size), random.rand(256)) if text.size > 0 } }
      else bytes += originals.sample(random: random)[0, random.rand(400)]
      end
    end
    bytes
  end

  # A part of a workbook, damaged inside of a sound archive.
  def inside(bytes)
    parts = {}
    Zip::File.open_buffer(StringIO.new(bytes)) { |zip| zip.each { |entry| parts[entry.name] = entry.get_input_stream.read } }
    name = parts.keys.sample(random: random)
    random.rand(4).zero? ? parts.delete(name) : parts[name] = mutated(parts[name].b)
    Zip::OutputStream.write_buffer { |out| parts.each { |part, text| out.put_next_entry(part) && out.write(text) } }.string
  end

  def odd_file
    original = originals.sample(random: random)
    (original == originals.last && random.rand(2).zero?) ? inside(original) : mutated(original)
  end

  # @return [String] what became of it
  def became(bytes)
    import = Work::ReceiveImport.new(@folder, at).receive(StringIO.new(bytes), name: "odd")
    Web::ImportJson.write(import, Work::ReceiveImport.new(@folder, at), at)
    matching = import.matching.map { |one| one["field"] }
    Work::StartImport.check(import, matching, {"again" => true}, version: import.version, folder: @folder, moment: at)
    Work::Clerk.new(@folder, nil).finish(now)
    import.refresh.state
  rescue NimbleLetter::Error => error
    raise if error.message.strip.empty?

    "refused"
  end

  it "are read or refused, and leave nothing behind" do
    2.times { make_person(city: "Łódź", company_id: make_company("Felt").id) }
    ends = Hash.new(0)
    files.times do |n|
      bytes = odd_file
      ends[Timeout.timeout(5) { became(bytes) }] += 1
      expect(Records::SetAside.select_map(:detail)).to eq([])
    rescue StandardError, RSpec::Expectations::ExpectationNotMetError => error
      raise error, "file #{n}, #{[bytes].pack("m0")[0, 2000]}: #{error.class} #{error.message}"
    end
    expect(ends.keys - %w[refused checked failed reading]).to eq([])
    # What was unpacked is gone, and only files that were taken on are kept.
    expect([Dir.children(Dir.tmpdir), Dir.children(@folder).size]).to eq([[], Records::Import.exclude(file_key: "").count])
    puts "    #{files} files: #{ends.map { |state, count| "#{count} #{state}" }.join(", ")}" if files > 100
  end

  {
    "has no styles" => [{}, "xl/styles.xml", nil],
    "names no sheet" => [{}, "xl/workbook.xml", "<workbook/>"]
  }.each do |words, (_, part, text)|
    it "are named when a workbook #{words}, or read" do
      make_person(email: "ana@x.example")
      parts = {}
      Zip::File.open_buffer(StringIO.new(workbook)) { |zip| zip.each { |entry| parts[entry.name] = entry.get_input_stream.read } }
      text ? parts[part] = text : parts.delete(part)
      bytes = Zip::OutputStream.write_buffer { |out| parts.each { |name, body| out.put_next_entry(name) && out.write(body) } }.string
      expect(became(bytes)).to eq(text ? "refused" : "checked")
      expect(Dir.children(@folder).size).to eq(Records::Import.count)
    end
  end

  it "name the quotation mark that takes rows into one cell, and let a note of several lines be" do
    open = "a@x.example,\"Ana\nb@x.example,Bo\nc@x.example,Cy\"\n"
    file = ->(rows) { StringIO.new("Email,Name\n#{"p@x.example,Ana\n" * rows}#{open}") }
    words = /quotation mark in line (\d+) is not closed: it takes the 2 lines below it/
    expect { Work::ReceiveImport.new(@folder, at).receive(file.call(1), name: "x") }.to raise_error(Files::Unreadable, words)
    far = check(Work::ReceiveImport.new(@folder, at).receive(file.call(300), name: "x"))
    expect([far.state, far.problem[words, 1]]).to eq(%w[failed 302])
    ["one, two\nthree, four", "Kind regards\nask ana@x.example, or Bo", "see\nana@x.example"].each do |note|
      expect(became("Some people\nEmail,Note\na@x.example,\"#{note}\"\n")).to eq("checked"), note
    end
  end

  def check(import)
    Work::StartImport.check(import, ["person.email", "person.last_name"], {}, version: import.version, folder: @folder, moment: at)
    Work::Clerk.new(@folder, nil).finish(now)
    import.refresh
  end

  it "number rows as the sheet does, and cards of groups are nobody" do
    cards = "BEGIN:VCARD\nVERSION:4.0\nFN:Ana Lark\nEND:VCARD\nBEGIN:VCARD\nVERSION:4.0\nKIND:group\nFN:Choir\nEND:VCARD\n"
    expect(became(cards)).to eq("checked")
    expect(Records::Import.order(:id).last.counts).to eq("new" => 1, "refused" => 1)
  end
end
