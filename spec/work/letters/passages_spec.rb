# frozen_string_literal: true

RSpec.describe "passages kept for reuse" do
  let(:keeping) { Work::KeepPassage.new(moment) }
  let(:hour) do
    keeping.make(
      name: "The hour",
      documents: {
        "" => doc(para("An hour with ", chip("owner.first_name", "us"))),
        "de" => doc(para("Eine Stunde"))
      }
    )
  end
  let(:letter) do
    Work::WriteLetter.new(moment).make(
      name: "With a passage",
      body: doc(para("Dear"), {"type" => "passage", "attrs" => {"passage_id" => hour.id}})
    )
  end

  def read_by(person) = Core::Letters::TextWriter.write(Work::Merging.new(letter, [person], moment).call(person, nil))

  it "are changed in one place and read in the reader's language" do
    expect(read_by(make_person)).to eq("Dear\n\nAn hour with us\n")
    expect(read_by(make_person(language: "de"))).to eq("Dear\n\nEine Stunde\n")
    keeping.change(hour, {version: 1, documents: {"" => doc(para("Half an hour"))}})
    expect(read_by(make_person(language: "de"))).to eq("Dear\n\nHalf an hour\n")
  end

  it "keep versions in every language, before much is taken away, and are gone back to" do
    written = (1..40).map { |n| "word#{n}" }.join(" ")
    keeping.change(hour, {version: 1, documents: {"" => doc(para(written)), "de" => doc(para("Stunde"))}})
    keeping.change(hour, {version: 2, documents: {"" => doc(para(""))}})
    versions = Work::Versions.new(hour, moment)
    texts = -> { versions.all.order(:number).map { |one| Records::Passage.words_of(one.content).values.join(" ").strip } }
    expect(texts.call).to eq(["#{written} Stunde", ""])

    keeping.restore(hour, versions.find!(1), number: 3)
    expect(hour.refresh.documents.transform_values { |json| Core::Letters::Document.new(json).summary }).to eq(
      "" => written, "de" => "Stunde"
    )
    expect(versions.places).to eq(at: 1, back: nil, forward: 2, newest: 2)
    keeping.set_aside(hour, {documents: {"" => doc(para("lost"))}})
    expect([texts.call.last, versions.places[:at]]).to eq(["lost", 1])
    parts = Work::CompareVersions.call(versions.find!(1).content, versions.find!(2).content, moment.catalogue)
    expect(parts.map { |part| part[:part] }).to eq(["", "de"])
  end

  it "say where they are used, and stay while they are" do
    letter

    expect(Work::WhereUsed.new.passage(hour)).to eq([{kind: "letter", id: letter.id, name: "With a passage"}])
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
    Work::KeepPassage.new(moment).make(
      name: "Guests only",
      documents: {
        "" => doc(shown_if({"field" => "person.lists", "is" => "one_of", "value" => [list.id]}, [para(chip(field.to_field.key))], []))
      }
    )

    expect(Work::WhereUsed.new.tag(tag).map { |use| use.values_at(:kind, :name) }).to eq([["letter", "To the press"]])
    expect(Work::WhereUsed.new.list(list).map { |use| use.values_at(:kind, :name) }).to eq([["passage", "Guests only"]])
    expect(Work::WhereUsed.new.field(field.to_field).map { |use| use[:name] }).to eq(["Guests only"])
  end
end
