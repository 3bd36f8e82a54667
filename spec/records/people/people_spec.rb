# frozen_string_literal: true

RSpec.describe "a person's record" do
  it "is found by words without their accents, in any part of name, company and address" do
    person = make_person(first_name: "Zoë", last_name: "Måneløkke", company_id: make_company("The Oyster Shed").id)
    make_person(first_name: "Somebody", last_name: "Else")

    ["zoe", "MANEL", "oyster zoe", person.email].each do |words|
      expect(Records::Person.dataset.with_words(words).select_map(:id)).to eq([person.id]), words
    end
    expect(Records::Person.dataset.with_words("zoe nobody").count).to eq(0)
  end

  it "is not overwritten by somebody who read an older version" do
    person = make_person
    stale = Records::Person[person.id]
    person.change!({city: "Hull"}, version: 1, now: now)

    expect { stale.change!({city: "Leeds"}, version: 1, now: now) }.to raise_error(Conflict) { |error|
      expect(error.data).to eq(version: 2)
    }
    expect(person.refresh.city).to eq("Hull")
  end

  it "refuses an address that could break a header" do
    ["no at sign", "a@b", "a b@c.example", "a@b.example\r\nBcc: x@y.example"].each do |address|
      expect { make_person(email: address) }.to raise_error(Sequel::ValidationFailed), address
    end
  end

  it "comes in pages that neither miss nor repeat anybody" do
    people = Array.new(7) { |n| make_person(last_activity_at: (n < 4) ? now - (n / 2) : nil) }
    seen, cursor = [], nil
    loop do
      page, cursor = Records::Cursor.page(Records::Person.dataset.newest_first, time: :last_activity_at, cursor: cursor, limit: 2)
      seen += page.map(&:id)
      break unless cursor
    end

    expect(seen).to match_array(people.map(&:id))
    expect { Records::Cursor.read("made up") }.to raise_error(Invalid)
  end
end

RSpec.describe "who was not reached" do
  it "is whom a letter came back from, and who was turned away at the door" do
    people = Array.new(3) { make_person }
    Work::Happening.call("bounced", at: now, person_id: people[0].id)
    Work::Happening.call("refused", at: now, person_id: people[1].id)
    tree = Records::FieldCatalogue.parser.parse!({"activity" => "bounced"})

    expect(Records::Person.where(moment.sql.read(tree)).select_map(Sequel[:people][:id])).to match_array(people.first(2).map(&:id))
  end
end

RSpec.describe "the sieve" do
  it "drops each person for the first reason that fits, and each number opens its people" do
    good = make_person
    nobody = make_person(email: nil, do_not_mail: true)
    double = make_person(email: good.email.upcase)
    refused = make_person(do_not_mail: true, address_failed: true)
    failed = make_person(address_failed: true, consent: "no")
    no = make_person(consent: "no")
    sieving = moment.sieving(moment.audience({"people" => Records::Person.select_map(:id)}))
    account = sieving.account
    counts = account[:stages].flat_map { |stage| stage[:reasons] }.to_h { |reason| [reason[:key], reason[:count]] }

    expect(counts).to eq(
      "no_address" => 1,
      "same_address" => 1,
      "do_not_mail" => 1,
      "address_blocked" => 0,
      "address_failed" => 1,
      "no_consent" => 1,
      "no_at_address" => 0,
      "written_enough" => 0
    )
    expect(account).to include(matching: 6, would_get_it: 1)
    {
      "no_address" => nobody,
      "same_address" => double,
      "do_not_mail" => refused,
      "address_failed" => failed,
      "no_consent" => no,
      "would_get_it" => good
    }.each { |part, person| expect(sieving.people_of(part).select_map(:id)).to eq([person.id]), part }
    expect(sieving.people_of("reachable").count).to eq(4)
    expect { sieving.people_of("elsewhere") }.to raise_error(Invalid)
  end

  it "means nobody by a condition on nothing" do
    make_person

    expect(moment.audience({}).said?).to be(false)
    expect(moment.audience({"condition" => {"all" => [{"any" => []}]}}).said?).to be(false)
  end
end

RSpec.describe "an event" do
  it "is appended and never changed or removed" do
    event = Records::Event.create(kind: "note", person_id: make_person.id, occurred_at: now)

    expect { event.update(kind: "replied") }.to raise_error(Sequel::DatabaseError, /appended only/)
    expect { event.delete }.to raise_error(Sequel::DatabaseError, /appended only/)
  end
end
