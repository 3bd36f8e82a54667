# frozen_string_literal: true

# In a process and with a database of its own: the server is killed in the middle of a batch and comes back. Prints what
# the API said meanwhile and what became of the letters, as JSON.
require "json"
require "rack/test"
require_relative "../../lib/nimble_letter"
include NimbleLetter # rubocop:disable Style/MixinUsage -- specs speak the product's own words

require_relative "../support/builders_alone"
require_relative "../support/transports"
singleton_class.include(Builders)

configuration = Configuration.new
server = Processes::DatabaseServer.new(configuration)
pid = server.start
Records.connect(configuration)
Records.migrate(configuration)
Practice::Clock.new.set(Builders::NOW)
site = Rack::Test::Session.new(Web::Site.app(configuration, clock: Practice::Clock.new), "127.0.0.1")
sequence = start(make_sequence(people: Array.new(6) { make_person }), at: now - 3600)
late = Time.utc(2026, 5, 12, 10, 20)
Records::Delivery.where(sequence_id: sequence.id, state: "due").update(due_at: late - 60)

answer = nil
transport = ToldTransport.new(Post::Outcomes::Accepted.new("250"))
transport.define_singleton_method(:deliver) do |raw, **rest|
  if delivered.size == 2
    Process.kill(:KILL, pid)
    Process.wait(pid)
    site.get("/u/anything.that-is-not-ours")
    site.get("/api/practice/clock")
    site.get("/api/session")
    answer = [site.last_response.status, site.last_response.body]
  end
  super(raw, **rest)
end
# The server comes back when somebody waits for it for the third time.
waited = 0
patience = Records::Patience.new(seconds: 120, pause: -> { ((waited += 1) == 3) ? pid = server.start : IO.select(nil, nil, nil, 0.05) })
Post::Worker.build(configuration, transport: -> { transport }, patience: patience).dispatch_due(late)

puts JSON.generate(
  api: answer,
  waited: waited,
  to: transport.delivered.map { |one| one[:to] }.tally.values,
  states: Records::Delivery.where(sequence_id: sequence.id).group_and_count(:state).as_hash(:state, :count),
  sent_events: Records::Event.where(kind: "sent").count
)
server.stop(pid)
