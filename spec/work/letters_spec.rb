# frozen_string_literal: true

require "stringio"
require "vips"

RSpec.describe "writing a letter" do
  let(:maren) { make_account }
  let(:petra) { make_account(name: "Petra Lund") }
  let(:letter) { by(maren).make(name: "A word", body: doc(para("first words"))) }

  def by(account, at = now) = Work::WriteLetter.new(moment(at, account: account))

  def versions = Records::LetterVersion.where(letter_id: letter.id).order(:number).all

  it "keeps what one colleague types within ten minutes as one version, and begins another after that or for another colleague" do
    by(maren, now + 60).change(letter, {version: 1, body: doc(para("second words"))})
    by(maren, now + 700).change(letter, {version: 2, body: doc(para("third words"))})
    by(petra, now + 710).change(letter, {version: 3, body: doc(para("fourth words"))})

    expect(versions.map { |one| [one.number, one.account_id, one.content["body"]["content"][0]["content"][0]["text"]] })
      .to eq([[1, maren.id, "second words"], [2, maren.id, "third words"], [3, petra.id, "fourth words"]])
  end

  it "goes back to a version, and the way back is a version too" do
    by(maren, now + 700).change(letter, {version: 1, manner: "designed", subject: doc(para("Another"))})
    by(petra, now + 800).restore(letter, versions.first, number: 2)

    expect([letter.refresh.manner, letter.document(:subject).empty?, letter.name]).to eq(["plain", true, "A word"])
    expect(versions.map(&:kind)).to eq(%w[typed typed restored])
  end

  it "overwrites nobody: the second writer hears of it, and either text stays" do
    by(petra, now + 5).change(letter, {version: 1, body: doc(para("hers"))})
    stale = Records::Letter[letter.id]

    expect { by(maren, now + 6).change(stale, {version: 1, body: doc(para("his"))}) }.to raise_error(Conflict) { |error| expect(error.code).to eq(:changed_meanwhile) }
    by(maren, now + 7).set_aside(letter.refresh, {body: doc(para("his"))})
    expect(letter.refresh.document(:body).summary).to eq("hers")
    expect(versions.last).to have_attributes(kind: "set_aside", content: include("body" => doc(para("his"))))
  end

  it "survives ten tabs on one letter: each save is whole, and only those on the newest version count" do
    outcomes = 10.times.map do |n|
      Work::WriteLetter.new(moment(now + n, account: maren)).change(Records::Letter[letter.id], {version: 1, body: doc(para("tab #{n}"))}) && :saved
    rescue Conflict
      :told
    end

    expect(outcomes.tally).to eq(saved: 1, told: 9)
    expect(letter.refresh.document(:body).summary).to eq("tab 0")
  end

  it "compares two versions word by word" do
    by(maren, now + 700).change(letter, {version: 1, body: doc(para("first kind words")), name: "Another word"})
    parts = Work::CompareVersions.call(*versions.map { |one| one.content.transform_keys(&:to_sym) }, moment.catalogue)

    expect(parts.map { |part| part[:part] }).to eq(%w[name body])
    expect(parts.last[:pieces]).to eq([{kind: "same", text: "first "}, {kind: "new", text: "kind "}, {kind: "same", text: "words"}])
  end

  it "copies with everything that goes with it" do
    Work::TakeAttachment.new(letter, moment).call(StringIO.new("%PDF-1.4"), name: "page.pdf")
    copy = by(petra).copy(letter)

    expect(copy).to have_attributes(name: "A word, copy", account_id: petra.id, body: letter.body)
    expect(copy.attachments.map(&:name)).to eq(["page.pdf"])
  end

  it "refuses pictures and passages that are not there, languages and manners that are none, and an empty name" do
    picture = {"type" => "picture", "attrs" => {"picture_id" => 99_999}}

    {{body: doc(picture)} => :picture_gone, {body: doc({"type" => "passage", "attrs" => {"passage_id" => 99_999}})} => :passage_gone, {manner: "loud"} => :invalid, {language: "xx"} => :invalid, {name: " \n"} => :invalid}.each do |input, code|
      expect { by(maren).change(letter, {version: 1, **input}) }.to raise_error(Invalid) { |error| expect(error.code).to eq(code) }
    end
    expect(letter.refresh.version).to eq(1)
  end

  it "is found by words in its name and text" do
    letter.update(subject: doc(para("Zoë’s felt")))

    expect(Records::Letter.where(Sequel.ilike(:words, "%zoe%")).select_map(:id)).to eq([letter.id])
  end
end

RSpec.describe "passages kept for reuse" do
  let(:keeping) { Work::KeepPassage.new(moment) }
  let(:hour) { keeping.make(name: "The hour", documents: {"" => doc(para("An hour with ", chip("owner.first_name", "us"))), "de" => doc(para("Eine Stunde"))}) }
  let(:letter) { Work::WriteLetter.new(moment).make(name: "With a passage", body: doc(para("Dear"), {"type" => "passage", "attrs" => {"passage_id" => hour.id}})) }

  def read_by(person) = Core::Letters::TextWriter.write(Work::Merging.new(letter, [person], moment).call(person, nil))

  it "are changed in one place and read in the reader's language" do
    expect(read_by(make_person)).to eq("Dear\n\nAn hour with us\n")
    expect(read_by(make_person(language: "de"))).to eq("Dear\n\nEine Stunde\n")
    keeping.change(hour, {version: 1, documents: {"" => doc(para("Half an hour"))}})
    expect(read_by(make_person(language: "de"))).to eq("Dear\n\nHalf an hour\n")
  end

  it "say where they are used, and stay while they are" do
    letter

    expect(Work::WhereUsed.passage(hour)).to eq([{kind: "letter", id: letter.id, name: "With a passage"}])
    expect { keeping.remove(hour) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:in_use) }
  end

  it "never contain themselves, not even by way of another" do
    other = keeping.make(name: "Other", documents: {"" => doc({"type" => "passage", "attrs" => {"passage_id" => hour.id}})})
    circle = {"" => doc({"type" => "passage", "attrs" => {"passage_id" => other.id}})}

    expect { keeping.change(hour, {version: 1, documents: circle}) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:circle) }
    expect { keeping.change(hour, {version: 1, documents: {"de" => doc}}) }.to raise_error(Invalid, /everybody/)
  end
end

RSpec.describe "conditions within letters" do
  tagged = {"field" => "person.tags", "is" => "one_of", "value" => ["press"]}
  let(:tag) { Records::Tag.named("press") }
  let!(:letter) { Work::WriteLetter.new(moment).make(name: "To the press", body: doc(shown_if(tagged, [para("press")], []))) }

  it "follow a tag that is renamed, and whoever has the letter open hears of it" do
    Work::RenameTag.call(tag, "papers")

    expect(letter.refresh.document(:body).conditions).to eq([tagged.merge("value" => ["papers"])])
    expect(letter.version).to eq(2)
  end

  it "count where a tag, a list or a field of one's own is used", :own_fields do
    make_own_fields
    list = Work::KeepList.make("Guests", Records::Person.where(id: make_person.id), moment: moment)
    field = Records::CustomField.first(name: "paint")
    Work::KeepPassage.new(moment).make(name: "Guests only", documents: {"" => doc(shown_if({"field" => "person.lists", "is" => "one_of", "value" => [list.id]}, [para(chip(field.to_field.key))], []))})

    expect(Work::WhereUsed.tag(tag).map { |use| use.values_at(:kind, :name) }).to eq([["letter", "To the press"]])
    expect(Work::WhereUsed.list(list).map { |use| use.values_at(:kind, :name) }).to eq([["passage", "Guests only"]])
    expect(Work::OwnField.used_in(field)[:passages].map { |use| use[:name] }).to eq(["Guests only"])
  end
end

RSpec.describe "taking in a picture" do
  def take(bytes, name: "room.jpg") = Work::TakePicture.new(moment).call(StringIO.new(bytes), name: name)

  def picture(width, height) = (Vips::Image.black(width, height, bands: 3) + [120, 90, 60]).cast(:uchar).copy(interpretation: :srgb)

  it "makes it no wider than letters need and writes it anew, without what a camera put in" do
    placed = picture(2400, 800).mutate { |image| image.set_type!(GObject::GSTR_TYPE, "exif-ifd0-Copyright", "Felt Yard (Felt Yard, ASCII, 10 components, 10 bytes)") }.jpegsave_buffer
    taken = take(placed)

    expect(placed).to include("Felt Yard")
    expect([taken.width, taken.height, taken.mime, taken.name]).to eq([1200, 400, "image/jpeg", "room"])
    expect(taken.refresh.data).not_to include("Felt Yard")
    expect(Vips::Image.new_from_buffer(taken.data, "").get_fields.grep(/exif|xmp|iptc/i)).to eq([])
  end

  it "keeps what is clear as PNG, and knows a picture it has" do
    clear = picture(40, 40).bandjoin(128).pngsave_buffer

    expect(take(clear).mime).to eq("image/png")
    expect(take(clear).id).to eq(take(clear, name: "again.png").id)
  end

  it "refuses what is no picture, whatever it is called" do
    ["", "GIF", "<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>", "%PDF-1.4", "\xFF\xD8\xFF garbage".b, "\x89PNG\r\n\x1a\n".b + ("x" * 100)].each do |bytes|
      expect { take(bytes) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:not_a_picture) }, bytes.inspect
    end
  end

  it "refuses a bomb before it is unpacked, and a file that is too large" do
    bomb = picture(12_000, 9_000).pngsave_buffer(compression: 9)

    expect(bomb.bytesize).to be < 2_000_000
    expect { take(bomb) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:too_large) }
    expect { take("\xFF\xD8\xFF".b + "x" * Work::TakePicture::MOST_BYTES) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:too_large) }
  end

  it "stays while a letter uses it" do
    taken = take(picture(10, 10).pngsave_buffer)
    letter = Work::WriteLetter.new(moment).make(name: "Shown", body: doc({"type" => "picture", "attrs" => {"picture_id" => taken.id, "alt" => [], "href" => [], "width" => 100}}))

    expect(Work::WhereUsed.picture(taken)).to eq([{kind: "letter", id: letter.id, name: "Shown"}])
  end
end

RSpec.describe "files that go with a letter" do
  let(:letter) { make_letter }

  def attach(name, bytes = "words") = Work::TakeAttachment.new(letter, moment).call(StringIO.new(bytes), name: name)

  it "are kept with their type, under a name without a path" do
    expect(attach("../../etc/Über uns.pdf")).to have_attributes(name: ".._.._etc_Über uns.pdf", mime: "application/pdf", bytes: 5)
  end

  it "are refused when servers would turn the letter away, or there is too much of them" do
    expect { attach("invoice.pdf.exe") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:refused_file) }
    expect { attach("empty.pdf", "") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:empty_file) }
    expect { attach("large.pdf", "x" * (Work::TakeAttachment::MOST_BYTES + 1)) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:too_large) }
    5.times { |n| attach("#{n}.txt") }
    expect { attach("6.txt") }.to raise_error(Invalid) { |error| expect(error.code).to eq(:too_many) }
  end
end

RSpec.describe "a letter as a file" do
  let(:letter) do
    passage = Work::KeepPassage.new(moment).make(name: "P", documents: {"" => doc(para("kept"))})
    picture = Work::TakePicture.new(moment).call(StringIO.new((Vips::Image.black(8, 8, bands: 3) + 40).cast(:uchar).copy(interpretation: :srgb).pngsave_buffer), name: "Room")
    Work::WriteLetter.new(moment).make(name: "Spring", subject: doc(para("For ", chip("person.first_name", "you"))), preview: doc(para("One hour")), manner: "designed", language: "de", category: "News",
      body: doc({"type" => "heading", "attrs" => {"level" => 2}, "content" => words("Hello")}, para("Dear ", chip("person.first_name"), ", ", link("listen", "https://a.example/x_y")),
        {"type" => "picture", "attrs" => {"picture_id" => picture.id, "alt" => words("A room"), "href" => [], "width" => 50}}, {"type" => "passage", "attrs" => {"passage_id" => passage.id}},
        {"type" => "bulletList", "content" => [{"type" => "listItem", "content" => [para("felt")]}]}, {"type" => "quote", "content" => [para("said")]}, {"type" => "divider"}))
  end

  def out(format) = Work::LetterOut.new(letter, moment, base_url: "https://letters.example").file(format)

  def back(format, file = out(format)) = Work::LetterIn.new(moment).call(StringIO.new(file), name: "spring.#{format}")

  it "comes back exactly from JSON, and brings its pictures and passages along" do
    expect(back("json").content).to eq(letter.content)

    file = out("json")
    Records::Letter.where(id: letter.id).delete if Records::LetterVersion.where(letter_id: letter.id).delete
    Records::Picture.dataset.delete
    Records::Passage.dataset.delete
    anew = back("json", file)
    expect([anew.document(:body).picture_ids, anew.document(:body).passage_ids]).to eq([[Records::Picture.get(:id)], [Records::Passage.get(:id)]])
    expect(anew.name).to eq("Spring")
  end

  it "comes back from Markdown, HTML and a message with its words, fields and links" do
    %w[md html eml].each do |format|
      anew = back(format)
      fields = anew.document(:body).merge_fields.map { |node| node["attrs"]["field"] }

      expect([format, anew.document(:subject).merge_fields.map { |node| node["attrs"].values_at("field", "fallback") }, fields]).to eq([format, [["person.first_name", "you"]], ["person.first_name"]])
      expect(anew.document(:body).summary.split.join(" ")).to include("Hello Dear [first name], listen", "felt", "said"), format
      expect(JSON.generate(anew.body)).to include("https://a.example/x_y")
    end
  end

  it "is told apart by name or by what is in it, and says when it is none" do
    expect(Work::LetterIn.new(moment).call(StringIO.new("<p>Hi {{first name}}</p>"), name: "x").document(:body).summary).to eq("Hi [first name]")
    ["{}", "{\"format\":1}", "{oops"].each { |text| expect { back("json", text) }.to raise_error(Invalid) { |error| expect(error.code).to eq(:not_a_letter) } }
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

RSpec.describe "whom a letter is written for" do
  let(:people) { [make_person(city: nil), make_person(city: "Hull"), make_person(city: "York", first_name: nil)] }
  let(:near) { {"field" => "person.city", "is" => "one_of", "value" => ["York"]} }
  let(:letter) { Work::WriteLetter.new(moment).make(name: "W", subject: doc(para("S")), body: doc(para(chip("person.city")), shown_if(near, [para(chip("person.first_name"))], [para(chip("person.region"))]))) }
  let!(:sequence) { make_sequence(people: people, letters: [letter]) }
  let(:audience) { Work::LetterAudience.new(letter, moment) }

  it "is the people of its sequence, with how many lack a field or see a side" do
    expect([audience.words, audience.total, audience.without("person.city"), audience.seeing(near)]).to eq(["the people of “Quieter rooms”", 3, 1, 1])
    expect(audience.without("sender.name")).to be_nil
    expect(audience.seeing({"field" => "lookup.rain", "is" => "yes"})).to be_nil
  end

  it "has as many gaps in its checks as in the stack" do
    gaps = Work::LetterChecks.new(letter, moment).all.select { |advice| advice.code == "gap" }.to_h { |advice| [advice.excerpt, advice.count] }
    rows = Work::Stack.new(sequence.steps.first, moment).list[:rows]

    expect(gaps).to eq("city" => 1, "first name" => 1, "region" => 2)
    expect(rows.flat_map { |row| row[:gaps].map { |gap| gap[:label].downcase } }.tally).to eq(gaps)
  end

  it "is leafed through: next, before, the next with a gap, anybody" do
    reader = Work::NextReader.new(letter, moment)
    ids = people.map(&:id)
    letter.update(body: doc(para(chip("person.city"))))

    expect([reader.call("next", after: ids[0]), reader.call("before", after: ids[0]), reader.call("gap", after: ids[0]), reader.call("gap", after: ids[2])].map { |found| found[:person_id] }).to eq([ids[1], ids[2], ids[0], ids[0]])
    expect(ids - [ids[1]]).to include(reader.call("random", after: ids[1])[:person_id])
    expect { reader.call("any") }.to raise_error(Invalid)
  end

  it "is everybody with an address while it is in no sequence" do
    alone = make_letter

    expect(Work::LetterAudience.new(alone, moment)).to have_attributes(words: "everybody with an address", total: Records::Person.kept.exclude(email: nil).count)
  end

  it "sets advice aside for this letter only, but never what blocks" do
    letter.update(preview: doc, set_aside: %w[no_preview no_subject], subject: doc)

    expect(Work::LetterChecks.new(letter, moment).call.map(&:code)).to include("no_subject")
    letter.update(subject: doc(para("S")))
    expect(Work::LetterChecks.new(letter, moment).call.map(&:code)).not_to include("no_preview")
  end
end

RSpec.describe "looking at the letters of a step" do
  let(:person) { make_person(city: nil) }
  let(:others) { Array.new(5) { make_person } }
  let(:letter) { make_letter(body: "Dear {{first name}},\n\nHow is {{city}}?\n\nYours") }
  let(:sequence) { make_sequence(people: [person, *others], letters: [letter]) }
  let(:step) { sequence.steps.first }
  let(:stack) { Work::Stack.new(step, moment) }

  it "fills a gap for this letter only, and leaves the record alone" do
    Work::WriteIntoLetter.new(step, person, moment).fill("person.city", "Whitby")

    expect(stack.letter(person)).to include(gaps: [], filled: {"person.city" => "Whitby"}, text: a_string_including("How is Whitby?"))
    expect(person.refresh.city).to be_nil
    expect(stack.list[:with_gaps]).to eq(0)
    expect { Work::WriteIntoLetter.new(step, person, moment).fill("person.shoe", "1") }.to raise_error(Invalid)
  end

  it "keeps a line where it was written for, and lists it when that place is gone" do
    Work::WriteIntoLetter.new(step, person, moment).line("P.S.", after: "How is [city]?")
    expect(stack.letter(person)).to include(line_after: "How is [city]?", line_lost: false, text: a_string_including("How is ?\n\nP.S."))

    letter.update(body: document("Dear {{first name}},\n\nAnother question"))
    changed = Work::Stack.new(Records::Step[step.id], moment)
    expect(changed.list).to include(lost: 1, personal: 1)
    expect(changed.letter(person)).to include(line_lost: true, text: a_string_including("P.S."))
  end

  it "gives each of two versions to half, in the stack as in the post" do
    step.update(other: {"what" => "subject", "subject" => document("Another subject")})
    person.update(city: "York")
    planned = stack.list[:rows].to_h { |row| [row[:person_id], row[:version]] }
    subjects = [person, *others].to_h { |one| [one.id, stack.letter(one)[:subject].map { |run| run[:text] }.join] }
    start(sequence.refresh)

    expect(planned.values.tally).to eq("a" => 3, "b" => 3)
    expect(subjects).to eq(planned.transform_values { |version| (version == "b") ? "Another subject" : "A word about your room" })
    expect(Records::Delivery.select_hash(:person_id, :version)).to eq(planned)
  end

  it "does not start while the other subject is empty" do
    step.update(other: {"what" => "subject", "subject" => doc(para)})
    person.update(city: "York")

    expect(Work::ReadyCheck.new(sequence.refresh, moment).call[:remarks]).to include(include(code: "no_subject", words: "The other subject of “A word” is empty."))
  end

  it "can compare a whole other letter, whose deliveries name it" do
    other = make_letter(name: "Other", subject: "Other", body: "Other words")
    other.update(body: doc(para("Other words"), shown_if({"field" => "person.city", "is" => "one_of", "value" => ["York"]}, [para("near")])))
    step.update(other: {"what" => "letter", "letter_id" => other.id})
    person.update(city: "York")
    expect(stack.list[:rows].map { |row| [row[:version], row[:sides]] }.tally).to eq(["a", []] => 3, ["b", [0]] => 3)
    start(sequence.refresh)

    expect(Records::Delivery.group_and_count(:letter_id).as_hash(:letter_id, :count)).to eq(letter.id => 3, other.id => 3)
    expect(Work::LetterUse.running(other)).to eq([{id: sequence.id, name: sequence.name, had: 0, will: 3}])
  end

  it "names the conditions its letter asks, and who sees what" do
    condition = {"field" => "person.city", "is" => "one_of", "value" => ["York"]}
    letter.update(body: doc(shown_if(condition, [para("near")], [para("far")])))
    list = stack.list

    expect(list[:conditions]).to eq([{index: 0, words: "everyone who is in York", people: 5}])
    expect(list[:rows].map { |row| row[:sides] }).to eq([[], [0], [0], [0], [0], [0]])
  end

  it "leafs through thousands without asking the database for each" do
    Records.db[:people].multi_insert(Array.new(1500) { |n| Records::Person.with_folds({first_name: "Ana", last_name: "L#{n}", email: "l#{n}@house.example", city: n.odd? ? "York" : nil, standing: "lead", consent: "yes", created_at: now, updated_at: now}) })
    all = make_sequence(people: Records::Person.all, letters: [letter])
    queries = 0
    logger = Logger.new(IO::NULL).tap { |made| made.formatter = ->(*) { queries += 1 } }
    Records.db.loggers << logger
    rows = Work::Stack.new(all.steps.first, moment).list[:rows]
    Records.db.loggers.delete(logger)

    expect(rows.size).to eq(1500)
    expect(queries).to be < 80
  end
end

RSpec.describe "facts from outside" do
  let(:people) { [make_person(city: "York"), make_person(city: "Hull"), make_person(city: "York"), make_person(city: nil)] }
  let(:letter) { Work::WriteLetter.new(moment).make(name: "W", subject: doc(para("S")), body: doc(para("There is ", chip("lookup.weather", "weather"), " in your city."), shown_if({"all" => [{"field" => "lookup.rain", "is" => "yes"}, {"field" => "person.city", "is" => "one_of", "value" => ["York"]}]}, [para("Rain in York.")], [para("Dry, or elsewhere.")]))) }

  # Answers as told, and counts.
  let(:service) do
    Class.new do
      attr_reader :asked

      def initialize(answers) = (@answers, @asked = answers, [])

      def ask(_service, value, day)
        @asked << [value, day]
        @answers.fetch(value)
      end
    end.new("York" => Lookups::Answer.new(facts: {"words" => "steady rain", "rain" => true, "celsius" => 9}), "Hull" => Lookups::Answer.failed("the weather service did not answer in time"))
  end

  def texts(at = moment_with(service))
    merging = Work::Merging.new(letter, people, at)
    [people.map { |person| Core::Letters::TextWriter.write(merging.call(person, nil)).strip }, merging.unanswered]
  end

  def moment_with(adapter) = Work::Moment.new(now: now, firm: firm, lookups: adapter)

  it "are merged, asked by passages, and have a stated result when nobody answers" do
    words, unanswered = texts

    expect(words).to eq(["There is steady rain in your city.\n\nRain in York.", "There is weather in your city.\n\nDry, or elsewhere.", "There is steady rain in your city.\n\nRain in York.", "There is weather in your city.\n\nDry, or elsewhere."])
    expect(unanswered).to eq(people[1].id => "the weather service did not answer in time")
  end

  it "are asked once for each city and day, and a service that failed is left alone for a while" do
    2.times { texts }

    expect(service.asked).to contain_exactly(["York", Date.new(2026, 5, 12)], ["Hull", Date.new(2026, 5, 12)])
  end

  it "are not asked by a letter that does not name them" do
    plain = make_letter(body: "Hello")
    Work::Merging.new(plain, people, moment_with(service)).call(people.first, nil)

    expect(service.asked).to eq([])
  end

  it "say so where no service is connected" do
    expect(texts(moment).last.values.uniq).to eq(["the weather service is not connected"])
  end
end
