# frozen_string_literal: true

require "stringio"
require "vips"

RSpec.describe "a letter as a file" do
  let(:letter) do
    passage = Work::KeepPassage.new(moment).make(name: "P", documents: {"" => doc(para("kept"))})
    picture =
      Work::TakePicture.new(moment).call(
        StringIO.new((Vips::Image.black(8, 8, bands: 3) + 40).cast(:uchar).copy(interpretation: :srgb).pngsave_buffer),
        name: "Room"
      )
    Work::WriteLetter.new(moment).make(
      name: "Spring",
      subject: doc(para("For ", chip("person.first_name", "you"))),
      preview: doc(para("One hour")),
      manner: "designed",
      language: "de",
      category: "News",
      body:
        doc(
          {"type" => "heading", "attrs" => {"level" => 2}, "content" => words("Hello")},
          para("Dear ", chip("person.first_name"), ", ", link("listen", "https://a.example/x_y")),
          {"type" => "picture", "attrs" => {"picture_id" => picture.id, "alt" => words("A room"), "href" => [], "width" => 50}},
          {"type" => "passage", "attrs" => {"passage_id" => passage.id}},
          {"type" => "bulletList", "content" => [{"type" => "listItem", "content" => [para("felt")]}]},
          {"type" => "quote", "content" => [para("said")]},
          {"type" => "divider"}
        )
    )
  end

  def links(letter) = JSON.generate(letter.body).scan(/"href":"([^"]+)"/).flatten

  def out(format) = Work::LetterOut.new(letter, moment, base_url: "https://letters.example").file(format)

  def back(format, file = out(format)) = Work::LetterIn.new(moment).call(StringIO.new(file), name: "spring.#{format}")

  it "comes back exactly from JSON, and brings its pictures and passages along" do
    expect(back("json").content).to eq(letter.content)

    file = out("json")
    Records::Letter.where(id: letter.id).delete if Records::LetterVersion.where(letter_id: letter.id).delete
    Records::Picture.dataset.delete
    Records::Passage.dataset.delete
    anew = back("json", file)
    expect([anew.document(:body).picture_ids, anew.document(:body).passage_ids]).to eq(
      [[Records::Picture.get(:id)], [Records::Passage.get(:id)]]
    )
    expect(anew.name).to eq("Spring")
  end

  it "comes back from Markdown, HTML and a message with its words, fields and links" do
    %w[md html eml].each do |format|
      anew = back(format)
      fields = anew.document(:body).merge_fields.map { |node| node["attrs"]["field"] }

      expect([format, anew.document(:subject).merge_fields.map { |node| node["attrs"].values_at("field", "fallback") }, fields]).to eq(
        [format, [%w[person.first_name you]], ["person.first_name"]]
      )
      expect(anew.document(:body).summary.split.join(" ")).to include("Hello Dear [first name], listen", "felt", "said"), format
      expect(JSON.generate(anew.body)).to include("https://a.example/x_y")
    end
  end

  it "keeps fields in the address of a link, whatever their names, and leads nowhere by one that is not ours" do
    addresses = ["https://a.example/?who={{first name}}&at={{city|nowhere}}", "{{company website}}/menu",
      "https://a.example/(x)/{{last name}}"]
    body = doc(*addresses.map { |address| para(link("here", address)) })
    Work::WriteLetter.new(moment).change(letter, {version: 1, body: body})
    %w[json md html eml].each { |format| expect(links(back(format))).to eq(addresses), format }

    written = %w[id=%7B%7Bfirst%20name%7D%7D {{contact.id}} %7B%7B%FF%7D%7D].map { |end_of_it|
      "<a href='https://b.example/?#{end_of_it}'>here</a>"
    }
    theirs = "<p>Dear all, #{written.join(" ")}</p>"
    read = back("html", theirs)
    expect(read.document(:body).summary).to eq("Dear all, here here here")
    expect(links(read)).to eq(["https://b.example/?id={{first name}}", "https://b.example/?%7B%7B%FF%7D%7D"])
  end

  it "keeps what is for some people from everybody where a file cannot say for whom, and brings it back whole as JSON" do
    asked = {"field" => "person.standing", "is" => "one_of", "value" => ["client"]}
    sides = [para("Ten per cent off"), para("Come and see")].map { |text| {"type" => "side", "content" => [text]} }
    conditional = {"type" => "conditional", "attrs" => {"condition" => asked}, "content" => sides}
    Work::WriteLetter.new(moment).change(letter, {version: 1, body: doc(para("Dear all"), conditional, para("Yours"))})
    wanted = ["Dear all", "[Only for everyone who is a client:]", "Ten per cent off", "[For everybody else:]", "Come and see",
      "[For everybody again:]", "Yours"]
    %w[md html eml].each do |format|
      read = (made = back(format)).document(:body).summary
      expect(made.document(:body).conditions).to eq([Core::Letters::FileMarks::NOBODY]), format
      to_all = said_to_all(made)
      expect([to_all & wanted, to_all & ["Dear all", "Yours"]]).to eq([["Dear all", "Yours"]] * 2), format
      expect(Work::LetterChecks.new(made, moment).blocking.map(&:code).tally["mark_of_a_file"]).to eq(3), format
      expect(wanted.map { |words| read.index(words) }).to eq(wanted.filter_map { |words| read.index(words) }.sort), "#{format}: #{read}"
    end
    expect(back("json").body).to eq(letter.refresh.body)
  end

  # @return [Array<String>] paragraphs that everybody has
  def said_to_all(made) =
    made.document(:body).blocks.reject { |block| block["type"] == "conditional" }.map { |block| block.dig("content", 0, "text") }

  it "says what cannot go along: for people to choose by, and in the file" do
    asked = {"field" => "person.city", "is" => "empty"}
    conditional = {"type" => "conditional", "attrs" => {"condition" => asked},
                   "content" => Array.new(2) { {"type" => "side", "content" => [para("x")]} }}
    button = {"type" => "button", "attrs" => {"href" => words("https://a.example")}, "content" => words("Go")}
    dated = {"type" => "mergeField", "attrs" => {"field" => "today.date", "form" => "long"}}
    Work::WriteLetter.new(moment).change(letter, {version: 1, body: doc(conditional, conditional, button, para(dated))})
    taken = Work::LetterOut.new(letter.refresh, moment, base_url: "https://a.example")
    said = ["the conditions of 2 parts, which come back for nobody until you say for whom they are", "how one field is written",
      "the look of one button, which is a link", "its language"]
    expect(%w[json md html eml].map { |format| taken.left_out(format) }).to eq([[], said, said, said])
    expect(taken.file("md")).to include("left_out: #{JSON.generate(said.join("; "))}")
    expect(taken.file("html")).to include("<!-- Left out: #{said.join("; ")} -->")
    expect(Mail.new(taken.file("eml")).header["X-Left-Out"].to_s).to eq(said.join("; "))
    within = Work::KeepPassage.new(moment).make(name: "Q", documents: {"" => doc(conditional)})
    Work::WriteLetter.new(moment).change(letter.refresh,
      {version: letter.version, body: doc({"type" => "passage", "attrs" => {"passage_id" => within.id}})})
    lost = Work::LetterOut.new(letter.refresh, moment, base_url: "https://a.example").left_out("md")
    expect(lost).to eq([said.first.sub("conditions of 2 parts", "condition of one part").sub("come", "comes").sub("they are", "it is"),
      "which passage one part is", said.last])
  end

  it "takes its files along as JSON and as a message, and says of the others that it cannot" do
    Work::TakeAttachment.new(letter, moment).call(StringIO.new("%PDF-1.4 felt"), name: "Prüfung Größe.pdf")
    %w[json eml].each do |format|
      expect(back(format).attachments.map { |file| [file.name, file.data] }).to eq([["Prüfung Größe.pdf", "%PDF-1.4 felt"]]), format
    end
    %w[md html].each { |format| expect(out(format)).to match(/[Ll]eft.out: .*; the file Prüfung Größe.pdf/) }
    expect(out("eml")).not_to match(/Left-Out: .*file/)
    broken = JSON.parse(out("json")).merge("attachments" => [{"name" => "x.pdf", "data" => "???"}])
    expect { back("json", JSON.generate(broken)) }.to raise_error(Invalid, /goes with this letter is broken/)
  end

  it "reads a message in whatever alphabet and encoding it was sent" do
    texts = {"ISO-8859-1" => "Grüße aus Köln", "ISO-8859-2" => "Řeka a žížala", "Windows-1252" => "Preis: 5 € – “ja”",
             "KOI8-R" => "Привет", "ISO-2022-JP" => "こんにちは", "GB18030" => "你好", "UTF-16" => "Zoë €", "utf8" => "Zoë €",
             "x-unknown" => "Grüße", "us-ascii" => "Zoë €"}
    texts.each do |charset, text|
      bytes = begin
        text.encode(Encoding.find(charset.sub("utf8", "UTF-8"))).b
      rescue ArgumentError, Encoding::UndefinedConversionError
        text.b
      end
      {"base64" => [bytes].pack("m"), "quoted-printable" => [bytes].pack("M"), "8bit" => bytes}.each do |encoding, body|
        head = "Subject: S\r\nContent-Type: text/plain; charset=#{charset}\r\nContent-Transfer-Encoding: #{encoding}\r\n\r\n"
        expect(back("eml", head.b + body).document(:body).summary).to eq(text), "#{charset} #{encoding}"
      end
    end
    page = "Subject: S\r\nContent-Type: text/html\r\n\r\n<meta charset=iso-8859-1><p>Gr\xFC\xDFe</p>".b
    expect(back("eml", page).document(:body).summary).to eq("Grüße")
  end

  describe "words that mean something in Markdown" do
    words = [
      "*",
      "_",
      "-",
      "1.",
      "#",
      ">",
      "|",
      "`",
      "&amp;",
      "...",
      "--",
      "\"quoted\"",
      "'",
      "<<",
      "~~~",
      "[x]",
      "(y)",
      "\\",
      ":",
      "=",
      "felt",
      "wool",
      "grey"
    ]
    word = PropCheck::Generators.one_of(*words.map { |one| PropCheck::Generators.constant(one) })

    it "come back as they were typed, each in its paragraph" do
      PropCheck
        .forall(PropCheck::Generators.array(PropCheck::Generators.array(word, min: 1, max: 5), min: 1, max: 3))
        .with_config(n_runs: 120) do |paragraphs|
          typed = paragraphs.map { |some| some.join(" ") }
          made =
            Work::WriteLetter.new(moment).make(
              name: "M",
              subject: doc(para("S")),
              preview: doc(para("P")),
              body: doc(*typed.map { |text| para(text) })
            )
          anew = back("md", Work::LetterOut.new(made, moment, base_url: "https://letters.example").file("md"))
          read = anew.body["content"].map { |block| [block["type"], Core::Letters::Summary.of(block, moment.catalogue)] }
          raise "#{typed.inspect} became #{read.inspect}" unless read == typed.map { |text| ["paragraph", text] }
        end
    end
  end

  it "says what is wrong with a letter that was changed by hand" do
    whole = JSON.parse(out("json"))
    {
      "body" => "words",
      "name" => 5,
      "manner" => "loud",
      "language" => "xx",
      "subject" => {
        "type" => "doc",
        "content" => [{"type" => "divider"}]
      },
      "category" => {
        "a" => 1
      }
    }.each do |key, value|
      changed = whole.merge("letter" => whole["letter"].merge(key => value))
      expect { back("json", JSON.generate(changed)) }.to raise_error(Invalid), key
    end
  end

  it "is told apart by name or by what is in it, and says when it is none" do
    expect(Work::LetterIn.new(moment).call(StringIO.new("<p>Hi {{first name}}</p>"), name: "x").document(:body).summary).to eq(
      "Hi [first name]"
    )
    ["{}", "{\"format\":1}", "{oops"].each do |text|
      expect { back("json", text) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:not_a_letter) }
    end
    picture = "\x89PNG\r\n\x1A\n".b
    {"%PDF-1.7" => /a PDF/, "\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1".b => /old document/, "{\\rtf1 x}" => /RTF/, picture => /a picture/}
      .each { |bytes, words| expect { back("txt", bytes) }.to raise_error(Invalid, words) }
    expect { back("md", " ") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:empty_file) }
    expect(back("md", "\xFFD\xE9j\xE0 vu".b).document(:body).summary).to include("Déjà vu")
  end

  it "is begun from every starter letter, each with fields that exist and nothing to remark" do
    expect(Work::StarterLetters.all.size).to eq(8)
    Work::StarterLetters.all.each do |starter|
      begun = Work::StarterLetters.begin_with(starter[:key], moment)
      expect([starter[:key], Work::LetterChecks.new(begun, moment).call.map(&:words)]).to eq([starter[:key], []])
    end
  end
end
