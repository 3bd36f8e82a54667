# frozen_string_literal: true

require "prop_check"
require "json"

# Makes valid records; an example states only what matters to it.
module Builders
  NOW = Time.utc(2026, 5, 12, 8, 0) # a Tuesday, 9:00 in York

  def now = NOW

  def firm =
    @firm ||=
      Records::Firm.new(
        name: "Tern & Fallow Acoustics",
        postal_address: "4 Felt Yard, York",
        time_zone: "Europe/London",
        holidays_of: "gb_eng"
      )

  def moment(at = NOW, account: nil) = Work::Moment.new(now: at, account: account, firm: firm)

  def number = @number = (@number || 0) + 1

  def make_account(**values)
    Records::Account.create(
      email: "colleague#{number}@ternandfallow.example",
      name: "Maren Holt",
      role: "admin",
      phone: "01632 960 101",
      created_at: NOW,
      **values
    )
  end

  def make_mailbox(**values)
    Records::Mailbox.create(address: "box#{number}@ternandfallow.example", name: "Maren Holt", daily_limit: 200, proved_at: NOW, **values)
  end

  def make_company(name = "The Copper Ladle", **values) =
    Records::Company.create(name: name, type: "restaurant", city: "York", created_at: NOW, **values)

  def make_person(**values)
    n = number
    Records::Person.create(
      first_name: "Ana",
      last_name: "Lark #{n}",
      email: "silent+ana#{n}@copperladle.example",
      standing: "lead",
      city: "York",
      time_zone: "Europe/London",
      created_at: NOW,
      updated_at: NOW,
      **values
    )
  end

  # Many at once, with few statements.
  # @return [Array<Integer>] their numbers
  def make_people(count)
    rows = Array.new(count) do |n|
      Records::Person.with_folds({first_name: "Ana", last_name: "Lark #{n}", email: "lark#{n}@house.example", standing: "lead",
        consent: "yes", city: "York", created_at: NOW, updated_at: NOW})
    end
    Records::BulkInsert.ids(:people, rows)
  end

  def document(text) = Core::Letters::Document.from_text(text).to_h

  def make_letter(
    name: "A word",
    subject: "A word about your room",
    preview: "One hour",
    body: "Dear {{first name|there}},\n\nHow is {{city|your town}}?",
    **values
  )
    Records::Letter.create(
      name: name,
      subject: document(subject),
      preview: document(preview),
      body: document(body),
      created_at: NOW,
      updated_at: NOW,
      **values
    )
  end

  # A draft of two letters, the second three working days after the first, to the given people.
  def make_sequence(
    people: [make_person],
    letters: [make_letter, make_letter(name: "A second word", body: "Dear {{first name|there}}, [once more].")],
    mailbox: make_mailbox,
    **values
  )
    sequence =
      Records::Sequence.create(
        name: "Quieter rooms",
        audience: {
          "people" => people.map(&:id)
        },
        sender: {
          "kind" => "mailbox",
          "mailbox_id" => mailbox.id
        },
        leave_on: %w[replied converted],
        created_at: NOW,
        updated_at: NOW,
        **values
      )
    letters.each_with_index do |letter, i|
      Records::Step.create(
        sequence_id: sequence.id,
        position: i,
        letter_id: letter.id,
        amount: i.zero? ? 0 : 3,
        from_minute: 540,
        to_minute: 690
      )
    end
    sequence.refresh
  end

  def start(sequence, at: NOW)
    said = Work::ReadyCheck.new(sequence, moment(at)).call.slice(:letters, :gaps)
    Work::StartSequence.call(sequence, version: sequence.version, **said, moment: moment(at)).refresh
  end

  # What a colleague changes on a record as it stands.
  # @param values [Hash{String=>Object}] by field
  def change_person(person, values, at = moment)
    stands = Records::Person[person.id]
    Work::ChangePerson.call(stands, values, version: stands.version, moment: at)
  end

  # @return [Array<String>] what a person's history says, the oldest first
  def history(person) =
    Web::HistoryWords.new(Records::Event.where(person_id: person.id).order(:id).all, moment).entries.map { |entry| entry[:words] }

  def figures(sequence) = Work::Results.new(sequence).call[:total].to_h { |figure| [figure[:name], figure[:count]] }
end
