# frozen_string_literal: true

RSpec.describe "whom a letter is written for" do
  let(:people) { [make_person(city: nil), make_person(city: "Hull"), make_person(city: "York", first_name: nil)] }
  let(:near) { {"field" => "person.city", "is" => "one_of", "value" => ["York"]} }
  let(:letter) do
    Work::WriteLetter.new(moment).make(
      name: "W",
      subject: doc(para("S")),
      body: doc(para(chip("person.city")), shown_if(near, [para(chip("person.first_name"))], [para(chip("person.region"))]))
    )
  end
  let!(:sequence) { make_sequence(people: people, letters: [letter]) }
  let(:audience) { Work::LetterAudience.new(letter, moment) }

  it "is the people of its sequence, with how many lack a field or see a side" do
    expect([audience.words, audience.total, audience.without("person.city").count, audience.seeing(near).count]).to eq(
      ["the people of “Quieter rooms”", 3, 1, 1]
    )
    expect(audience.without("sender.name")).to be_nil
    expect(audience.seeing({"field" => "lookup.rain", "is" => "yes"})).to be_nil
  end

  it "knows which of them somebody is, as one goes through them" do
    other = make_person
    places = ->(audience) { [*people, other].map { |person| audience.place_of(person)[:at] } }
    expect([places.call(audience), audience.place_of(other)[:of]]).to eq([[1, 2, 3, nil], 3])
    of_all = Work::LetterAudience.new(make_letter(name: "For nobody yet"), moment)
    expect([places.call(of_all), of_all.place_of(other)]).to eq([[1, 2, 3, 4], {at: 4, of: 4}])
  end

  describe "#behind" do
    def behind(**asked) = audience.behind(asked).select_map(:id)

    it "gives the people behind each number" do
      expect(behind(without: "person.city")).to eq([people[0].id])
      expect([behind(seeing: near), behind(seeing: near, others: true)]).to eq([[people[2].id], people.first(2).map(&:id)])
      expect([behind(gap: "person.first_name"), behind(gap: "person.region")]).to eq([[people[2].id], people.first(2).map(&:id)])
    end

    it "says when nobody can know them yet" do
      expect { behind(seeing: {"field" => "lookup.rain", "is" => "yes"}) }.to raise_error(Invalid) { |error|
        expect(error.code).to eq(:not_known_yet)
      }
      expect { behind(without: "sender.name") }.to raise_error(Invalid)
      expect { behind(gap: "person.country") }.to raise_error(Invalid)
    end
  end

  it "knows its sequence when it is only the other of two versions there" do
    other = make_letter(name: "Another way")
    sequence.steps.first.update(other: {"what" => "letter", "letter_id" => other.id})

    expect(Work::LetterAudience.new(other, moment).sequence).to eq(sequence)
    expect(Web::LetterJson.rows([other, letter], make_account).map { |row| row[:used_in] }).to eq(
      [[{id: sequence.id, name: "Quieter rooms"}]] * 2
    )
  end

  it "has as many gaps in its checks as in the stack" do
    gaps =
      Work::LetterChecks.new(letter, moment).all.select { |advice| advice.code == "gap" }.to_h { |advice| [advice.excerpt, advice.count] }
    rows = Work::StackList.new(sequence.steps.first, moment).call[:rows]

    expect(gaps).to eq("city" => 1, "first name" => 1, "region" => 2)
    expect(rows.flat_map { |row| row[:gaps].map { |gap| gap[:label].downcase } }.tally).to eq(gaps)
  end

  it "is leafed through: next, before, the next with a gap, anybody" do
    reader = Work::NextReader.new(letter, moment)
    ids = people.map(&:id)
    letter.update(body: doc(para(chip("person.city"))))

    expect(
      [
        reader.call("next", after: ids[0]),
        reader.call("before", after: ids[0]),
        reader.call("gap", after: ids[0]),
        reader.call("gap", after: ids[2])
      ].map { |found| found[:person_id] }
    ).to eq([ids[1], ids[2], ids[0], ids[0]])
    expect(ids - [ids[1]]).to include(reader.call("random", after: ids[1])[:person_id])
    expect { reader.call("any") }.to raise_error(Invalid)
  end

  it "is everybody with an address while it is in no sequence" do
    alone = make_letter

    expect(Work::LetterAudience.new(alone, moment)).to have_attributes(
      words: "everybody with an address",
      total: Records::Person.kept.exclude(email: nil).count
    )
  end

  it "sets advice aside for this letter only, but never what blocks" do
    letter.update(preview: doc, set_aside: %w[no_preview no_subject], subject: doc)

    expect(Work::LetterChecks.new(letter, moment).call.map(&:code)).to include("no_subject")
    letter.update(subject: doc(para("S")))
    expect(Work::LetterChecks.new(letter, moment).call.map(&:code)).not_to include("no_preview")
  end
end
