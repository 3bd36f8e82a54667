# frozen_string_literal: true

require "open3"
require "rbconfig"

RSpec.describe "the core" do
  # Loads every file of the core in a process of its own and reports what came along.
  probe = <<~'RUBY'
    require "date"
    require "./lib/nimble_letter"
    NimbleLetter.loader.eager_load_namespace(NimbleLetter::Core)
    def Time.now = raise("the core asked the clock")
    def Date.today = raise("the core asked the calendar")
    C = NimbleLetter::Core
    zone = C::Calendar::Zones.fetch("Europe/London")
    plan = C::Journey::Plan.new(steps: [C::Journey::Steps::Letter.new(id: 1, letter_id: 1, timing: C::Calendar::Timing.new)])
    machine = C::Journey::Machine.new(calendar: C::Calendar::WorkCalendar.new, our_zone: zone)
    machine.next(plan, plan.entrance(Time.at(0).utc), C::Journey::Known.new(their_zone: zone, seed: 1), Time.at(9_000_000).utc)
    document = C::Letters::Document.from_text("Dear {{first name}}")
    C::Letters::Merge.new(subject: document, preview: document, body: document).call({})
    loaded = %w[Sequel Sinatra Net::SMTP Net::HTTP Mail Puma Rodauth].select { |name| Object.const_defined?(name) }
    layers = %i[Records Work Post Web Practice].reject { |name| NimbleLetter.autoload?(name) }
    puts "loaded: #{(loaded + layers).join(" ")}"
  RUBY

  it "loads and runs without database, web, mail transport or clock" do
    out, status = Open3.capture2e(RbConfig.ruby, "-e", probe, chdir: ROOT)

    expect(status).to be_success, out
    expect(out).to eq("loaded: \n")
  end

  it "would notice a clock that sneaked in" do
    out, status = Open3.capture2e(RbConfig.ruby, "-e", "#{probe}\nTime.now", chdir: ROOT)

    expect(status).not_to be_success
    expect(out).to include("the core asked the clock")
  end

  it "names no other layer in its sources" do
    named =
      Dir[File.join(ROOT, "lib/nimble_letter/core/**/*.rb")].reject do |file|
        File.read(file).scan(/\b(Records|Work|Post|Web|Practice|Sequel)::/).empty?
      end

    expect(named).to eq([])
  end
end
