# frozen_string_literal: true

require "logger"
require "stringio"

RSpec.describe "facts for merging" do
  let(:owner) { make_account(name: "Petra Lund") }
  let(:facts) { Records::Facts.new(today: Date.new(2026, 5, 12)) }

  it "bring person, company, owner and today together under the catalogue's keys" do
    person = make_person(company_id: make_company("Pike & Parsley").id, owner_id: owner.id, fitted_on: Date.new(2025, 3, 1))

    expect(facts.for_people([person])[person.id]).to include(
      "person.first_name" => "Ana",
      "company.name" => "Pike & Parsley",
      "company.type" => "restaurant",
      "owner.first_name" => "Petra",
      "today.weekday" => Date.new(2026, 5, 12),
      "person.fitted_on" => Date.new(2025, 3, 1)
    )
  end

  it "say nothing of what is not there" do
    known = facts.for_people([person = make_person])[person.id]

    expect(known.values_at("company.name", "owner.name", "person.job_title")).to eq([nil, nil, nil])
  end

  it "name the sender of a letter" do
    mailbox = make_mailbox(account_id: owner.id)

    expect(facts.for_letter(make_person, mailbox)).to include("sender.name" => "Petra Lund", "sender.first_name" => "Petra")
    expect(facts.for_letter(make_person, nil)).not_to include("sender.name")
  end

  it "know a value for every merge field of the catalogue that is stored" do
    person = make_person
    Records::Deal.create(person_id: person.id, name: "Dining room", stage: "proposal", value_pence: 1, created_at: now)
    known = facts.for_letter(person, make_mailbox, deals: true)
    missing = Core::Fields::Standard.catalogue.for(:merge).map(&:key) - known.keys

    # The step knows its sequence, and lookups are asked for when a letter names them.
    expect(missing).to eq(%w[sequence.name lookup.weather lookup.temperature lookup.rain])
  end

  it "choose the deal a letter is about: the open one last worked on, or else the last one" do
    person = make_person
    deal = ->(name, stage, hours) do
      Records::Deal.create(
        person_id: person.id,
        name: name,
        stage: stage,
        value_pence: 120_000,
        created_at: now,
        updated_at: now + 3600 * hours
      )
    end
    deal.call("Old studio", "signed", 9)
    expect(facts.for_people([person], deals: true)[person.id]).to include("deal.name" => "Old studio", "deal.stage" => "signed")

    deal.call("Dining room", "proposal", 2)
    deal.call("Bar", "measured", 1)
    expect(facts.for_people([person], deals: true)[person.id]).to include("deal.name" => "Dining room", "deal.value" => 120_000)
    expect(facts.for_people([person])[person.id]).not_to have_key("deal.name")
  end

  it "read companies and owners once, however many people there are" do
    people = Array.new(5) { make_person(owner_id: owner.id, company_id: make_company("House #{number}").id) }
    queries = []
    Records.db.loggers << Logger.new(StringIO.new).tap { |logger| logger.formatter = ->(_, _, _, message) { queries << message } }
    facts.for_people(people)
    Records.db.loggers.clear

    # Companies, owners, and what the catalogue of fields depends on.
    expect(queries.grep(/SELECT/).size).to eq(3)
  end
end

RSpec.describe "the firm's days" do
  it "leaves out the holidays of its place" do
    calendar = firm.calendar(now)

    expect(calendar.working_day?(Date.new(2026, 5, 25))).to be(false) # spring bank holiday in England
    expect(calendar.working_day?(Date.new(2026, 5, 26))).to be(true)
  end

  it "knows its own date around midnight" do
    expect(firm.today(Time.utc(2026, 5, 12, 22, 59))).to eq(Date.new(2026, 5, 12))
    expect(firm.today(Time.utc(2026, 5, 12, 23, 0))).to eq(Date.new(2026, 5, 13))
  end
end

RSpec.describe "tags" do
  it "are one tag however they are spelled" do
    expect(Records::Tag.named(" Trade  Evening ").id).to eq(Records::Tag.named("trade evening").id)
    expect { Records::Tag.named("  ") }.to raise_error(Invalid)
  end
end

RSpec.describe "changing a record" do
  let(:maren) { make_account }
  let(:person) { make_person }

  def change(values) =
    Work::ChangePerson.call(
      person,
      values.transform_keys { |name| "person.#{name}" },
      version: person.refresh.version,
      moment: moment(account: maren)
    )

  def changes =
    Records::Event
      .where(person_id: person.id, kind: "field_changed")
      .order(:id)
      .map { |event| event.data.values_at("field", "from", "to") }

  it "appends each change with what it was before, and only what changed" do
    change({city: "Hull", first_name: "Ana"})
    change({standing: "client"})

    expect(changes).to eq([["person.city", "York", "Hull"], ["person.standing", "lead", "client"]])
    expect(person.refresh.version).to eq(3)
  end

  it "puts tags on and takes them off" do
    change({tags: %w[press referred]})
    change({tags: %w[referred]})

    expect(person.refresh.tags.map(&:name)).to eq(["referred"])
    expect(changes.map(&:first)).to eq(%w[tag tag tag])
  end

  it "gives a mended address a new chance" do
    person.update(address_failed: true)
    change({email: "new@copperladle.example"})

    expect(person.refresh.address_failed).to be(false)
  end

  it "refuses a standing or consent that is none, and keeps the record" do
    expect { change({standing: "king"}) }.to raise_error(Invalid) { |error| expect(error.at).to eq("person.standing") }
    expect { change({consent: "maybe"}) }.to raise_error(Invalid)
    expect(person.refresh.version).to eq(1)
  end

  it "takes line breaks out of names" do
    change({last_name: "Lark\r\nBcc: x@y.example"})

    expect(person.refresh.last_name).to eq("Lark Bcc: x@y.example")
  end

  it "goes on finding a person under the new name" do
    change({last_name: "Ćwiek"})

    expect(Records::Person.dataset.with_words("cwiek").count).to eq(1)
    expect(Records::Person.dataset.with_words("lark").count).to eq(0)
  end
end
