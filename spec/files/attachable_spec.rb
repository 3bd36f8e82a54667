# frozen_string_literal: true

require "zip"

RSpec.describe Files::Attachable do
  def refusal(name, data = "%PDF-1.7 harmless") = described_class.refusal(described_class.plain_name(name), data.b)

  # @param entries [Hash{String=>String}]
  def zip(entries, encrypter = nil)
    Zip::OutputStream
      .write_buffer(StringIO.new("".b), encrypter) { |out| entries.each { |name, data| out.put_next_entry(name) && out.write(data) } }
      .string
  end

  it "refuses what runs, by every spelling of its name" do
    [
      "run.exe",
      "RUN.EXE",
      "run.exe.",
      "run.exe . .",
      "run.exe ",
      "invoice.pdf.exe",
      "run.ｅｘｅ",
      "run．exe",
      "run.e\u200bxe",
      "run.exe\u200b",
      "invoice\u202Efdp.exe",
      "run.exe\u0000",
      "a/run.exe",
      "a\\run.scr",
      "page.HTML",
      "drawing.svg",
      "macro.docm",
      "go.lnk",
      "things.7z",
      "disc.iso"
    ].each { |name| expect(refusal(name)).to match(/\Aa \.\w+ file\z/), name.inspect }
  end

  it "refuses it by what is in it, whatever it is called" do
    {
      "MZ\x90\x00" => "a program",
      "\x7FELF\x02" => "a program",
      "\xCA\xFE\xBA\xBE" => "a program",
      "#!/bin/sh\nrm" => "a program",
      "L\x00\x00\x00\x01\x14\x02\x00" => "a shortcut",
      "  <!DOCTYPE html><script>" => "a page that can run scripts",
      "\xEF\xBB\xBF<svg onload=x>" => "a page that can run scripts",
      "Rar!\x1A\x07" => "an archive that cannot be looked into",
      "\x1F\x8B\x08" => "an archive that cannot be looked into",
      "\xD0\xCF\x11\xE0\xA1\xB1" => "an installer or an old document with macros",
      "PK\x03\x04 broken" => "an archive that cannot be read",
      "#{"\x00" * 32_769}CD001" => "the image of a disc"
    }.each { |data, words| expect(refusal("page.pdf", data)).to eq(words), data[0, 20].inspect }
  end

  it "looks into archives and documents" do
    expect(refusal("a.zip", zip("notes.txt" => "x", "deep/Run.EXE" => "MZ"))).to eq("an archive with “Run.EXE” in it")
    expect(refusal("a.zip", zip("inner.zip" => "PK"))).to eq("an archive with “inner.zip” in it")
    expect(refusal("a.docx", zip("[Content_Types].xml" => "x", "word/vbaProject.bin" => "x"))).to eq("a document with macros")
    expect(refusal("a.zip", zip({"notes.txt" => "x"}, Zip::TraditionalEncrypter.new("secret")))).to eq("an archive with a password")
    expect(refusal("a.zip", zip((0..1000).to_h { |n| ["#{n}.txt", ""] }))).to eq("an archive of very many files")
  end

  it "lets through what people send" do
    {
      "Angebot über Akustik.pdf" => "%PDF-1.7",
      "notes.txt" => "<b>not a page",
      "room.jpg" => "\xFF\xD8\xFF",
      "rooms.zip" => zip("plan.pdf" => "%PDF", "photo.jpg" => "\xFF\xD8"),
      "offer.docx" => zip("[Content_Types].xml" => "<x/>", "word/document.xml" => "<x/>"),
      "old.doc" => "\xD0\xCF\x11\xE0\xA1\xB1",
      "invoice.xml" => "<?xml version=\"1.0\"?><Invoice/>",
      "no ending" => "text"
    }.each { |name, data| expect(refusal(name, data)).to be_nil, name }
  end

  it "gives the name as it is read" do
    expect(described_class.plain_name("../../etc/pass\u202Ewd .txt. ")).to eq(".._.._etc_passwd .txt")
    expect(described_class.plain_name("a\r\nBcc: x@y.example.pdf")).to eq("aBcc_ x@y.example.pdf")
  end
end

RSpec.describe Files::XmlLibrary do
  # In a process of its own: which library is loaded first is decided once.
  def ran?(script)
    script = "require './lib/nimble_letter'; include NimbleLetter; #{script}"
    system(RbConfig.ruby, "-rbundler/setup", "-e", script, chdir: ROOT, err: File::NULL)
  end

  let(:read) { "exit(Files::LetterHtml.new(Core::Fields::Standard.catalogue).read('<p>Hello')['content'].size == 1)" }
  let(:picture) { "Work::TakePicture; Vips::Image.black(1, 1).pngsave_buffer" }

  it "serves pictures and pages whichever is asked for first" do
    expect(ran?("#{picture}; #{read}")).to be(true)
    expect(ran?("Files::LetterHtml; #{picture}; #{read}")).to be(true)
  end

  it "notices when the other one came first" do
    expect(ran?("require 'vips'; exit(Files::XmlLibrary.load!)")).to be(false)
  end
end
