# frozen_string_literal: true

# A database as the version before migration 12 left it, with a running sequence of two letters, brought up to date: prints the
# figures before and after, and which letters were sent then. In a process and a database of its own.
require "json"
require_relative "../../lib/nimble_letter"
include NimbleLetter # rubocop:disable Style/MixinUsage -- as the builders of the specs name things

BEFORE = 11
NOW = Time.utc(2026, 5, 14, 9)
configuration = Configuration.new
# It runs already; this makes the database and its users.
Processes::DatabaseServer.new(configuration).start
Records.connect(configuration)
Records.begin_anew(configuration)
Sequel.extension :migration
Records::Owner.new(configuration).open { |owner| Sequel::Migrator.run(owner, Records::MIGRATIONS, target: BEFORE) }

db = Records.db
stamps = {created_at: NOW, updated_at: NOW}
account = db[:accounts].insert(name: "Maren Holt", role: "admin", created_at: NOW)
box = db[:mailboxes].insert(address: "box@house.example", name: "Maren Holt", proved_at: NOW, account_id: account)
words = JSON.generate(Core::Letters::Document.from_text("Dear all").to_h)
letters = Array.new(2) { db[:letters].insert(name: "A word", subject: words, preview: words, body: words, **stamps) }
sequence = db[:sequences].insert(name: "Rooms", state: "running", audience: "{}", sender: "{}", leave_on: "[]", started_at: NOW, **stamps)
steps = letters.each_with_index.map { |letter, i| db[:steps].insert(sequence_id: sequence, position: i, letter_id: letter, amount: i * 3) }
# Before the first letter; before the second; out before it; through with both.
[["active", 0, "due", "ahead"], ["active", 1, "sent", "due"], ["left", 1, "sent", "skipped"], ["finished", 2, "sent", "sent"]]
  .each_with_index do |(state, passed, *states), n|
    person = db[:people].insert(first_name: "P#{n}", last_name: "Wen", email: address = "p#{n}@house.example", email_fold: address,
      email_trunk: address, standing: "lead", **stamps)
    member = db[:members].insert(sequence_id: sequence, person_id: person, mailbox_id: box, state: state, passed: passed, base: NOW,
      joined_at: NOW, status: "written")
    states.zip(steps, letters).each_with_index do |(how, step, letter), i|
      delivery = db[:deliveries].insert(key: "k#{n}#{i}", member_id: member, sequence_id: sequence, step_id: step, person_id: person,
        letter_id: letter, mailbox_id: box, state: how, due_at: NOW - 60, version: ("ab"[n % 2] if i == 1))
      next unless how == "sent"

      # The last one replied to both, and opened the first twice; a scanner opened all.
      heard = [["opened", true], *([["opened", false], ["opened", false]] if i.zero?), ["replied", false]]
      heard.select { |_, machine| machine || n == 3 }.each do |kind, machine|
        db[:events].insert(kind: kind, by_machine: machine, person_id: person, member_id: member, sequence_id: sequence, step_id: step,
          letter_id: letter, delivery_id: delivery, occurred_at: NOW)
      end
    end
  end
counts = ->(names) { db[:deliveries].where(state: names).count }
before = {"planned" => db[:deliveries].count, "sent" => counts.call("sent"), "skipped" => counts.call("skipped"),
          "due" => counts.call(%w[ahead due])}

Records.migrate(configuration)
Records::Firm.save(postal_address: "4 Felt Yard")
figures = -> { Work::Results.new(Records::Sequence[sequence]).call[:total].to_h { |one| [one[:name], one[:count]] } }
after = figures.call
members = Records::Member.order(:id).all.map { |member| [member.state, steps.index(member.step_id), member.version_of(steps.last)] }
taken = []
transport = Object.new
transport.define_singleton_method(:deliver) { |raw, from:, to:|
  taken << [from, to, raw.bytesize.positive?] && Post::Outcomes::Accepted.new("250 ok")
}
transport.define_singleton_method(:close) { nil }
Post::Worker.build(configuration, transport: -> { transport }).dispatch_due(NOW)
open = Records::Delivery.where(state: "due").order(:id).all.map { |one| [one.person.first_name, steps.index(one.step_id), one.version] }
puts JSON.generate(before: before, after: after.slice(*before.keys),
  heard: after.slice("opened", "replied", "clicked"), members: members, taken: taken.map { |_, to, _| to }, open: open,
  sent: figures.call["sent"], plan: Records::Sequence[sequence].plan.all.map(&:id) == steps,
  carried: Records::SequenceEvent.select_map(%i[kind data]), state: Records::Sequence[sequence].state)
