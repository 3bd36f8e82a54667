# frozen_string_literal: true

require "open3"

RSpec.describe Processes::Trace do
  let(:lines) { [] }
  let(:trace) { described_class.new(say: ->(words) { lines << words }) }
  let!(:sequence) { make_sequence(people: [make_person(first_name: "Tamsin", last_name: "Orchard", email: "tamsin@orchard.example")]) }
  let(:person) { Records::Person.first(last_name: "Orchard") }

  before do
    start(sequence)
    Practice::Clock.new.set(now)
  end

  def sources = lines.map { |line| line[/  (\D+) \d+/, 1] }.uniq

  it "tells of a person, by name or number, in the order in which it happened" do
    trace.run(%w[person Tamsin Orchard])

    expect(sources).to include("event", "member", "delivery")
    expect(lines).to include(a_string_matching(/member \d+ .*in sequence #{sequence.id}, round 1: active/))
    expect(lines).to include(a_string_matching(/delivery \d+ .*due 2026/))
    expect(lines.map { |line| line[0, 19] }).to eq(lines.map { |line| line[0, 19] }.sort)
    told = lines.dup
    lines.clear
    trace.run(["person", person.id.to_s])
    expect(lines).to eq(told)
  end

  it "tells of one letter to somebody what was set aside about it, and of a sequence when it started" do
    delivery = Records::Delivery.first(person_id: person.id)
    put = {kind: "letter", key: delivery.key, reason: "no such mailbox", delivery_id: delivery.id}
    Records::SetAside.insert(**put, first_at: now, last_at: now)
    trace.run(["delivery", delivery.id.to_s])
    expect(lines).to include(a_string_ending_with("no such mailbox, tried once"))

    lines.clear
    trace.run(["sequence", sequence.name])
    expect(lines).to include(a_string_matching(/sequence event \d+ +started/))
    expect(lines).to include(a_string_matching(/event \d+ +person #{person.id} · Joined/))
  end

  it "says so as long as the demo is being built" do
    said, status = Open3.capture2e(world_settings, RbConfig.ruby, "bin/nimble", "trace", "person", "Tamsin", chdir: ROOT)
    expect([said, status.exitstatus]).to eq(["The demo is still being built.\nbin/start and bin/dev say Ready once it is there.\n", 1])
  end

  it "says what it can trace, and when there is none" do
    expect { trace.run(%w[letter Winter]) }.to raise_error(Invalid, /person, delivery, sequence/)
    expect { trace.run(%w[person Nobody Ofthisname]) }.to raise_error(NotFound)
  end
end
