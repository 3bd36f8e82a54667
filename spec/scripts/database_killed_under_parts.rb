# frozen_string_literal: true

# In a folder and with a database of its own: web, worker and clerk run while the server is killed, stays away, and comes
# back; another web starts while it is away. Prints what the pages said and who was still there, as JSON.
require "json"
require "net/http"
require_relative "../../lib/nimble_letter"
include NimbleLetter # rubocop:disable Style/MixinUsage -- specs speak the product's own words

configuration = Configuration.new
late = Configuration.new(ENV.to_h.merge("PORT" => Processes::Ports.any.to_s))
server = Processes::DatabaseServer.new(configuration)
pid = server.start
Records.connect(configuration)
Records.migrate(configuration)
Practice::Clock.new.set(Time.utc(2026, 5, 12, 8))
children = Processes::Children.new(configuration)
log = File.join(configuration.var, "processes.log")
status = ->(given, path = "/api/session") { Net::HTTP.get_response("127.0.0.1", path, given.port).code }
settle = ->(what, &done) do
  deadline = Process.clock_gettime(Process::CLOCK_MONOTONIC) + 240
  until done.call
    if Process.clock_gettime(Process::CLOCK_MONOTONIC) > deadline
      abort "waited in vain until #{what}: #{File.read(log).lines.last(5).join}"
    end
    IO.select(nil, nil, nil, 0.05)
  end
end

children.start("web", port: configuration.port)
%w[worker clerk].each { |part| children.start(part) }
pids = children.pids
before = status.call(configuration)

Process.kill(:KILL, pid)
Process.wait(pid)
away = ["/api/session", "/u/nothing.of-ours", "/api/today"].map { |path| status.call(configuration, path) }
screen = status.call(configuration, "/")

# Started while there is no database: it answers, and says so.
latecomers = Processes::Children.new(late)
latecomers.start("web")
first_answer = nil
settle.call("the latecomer answers") do
  first_answer = status.call(late)
rescue Errno::ECONNREFUSED
  nil
end
# Everybody has met the missing server more than once by now.
settle.call("everybody waits") { File.read(log).scan("waiting for the database").size >= 6 }
ended = [*children.look_after, *latecomers.look_after]

pid = server.start
settle.call("the pages are back") { [configuration, late].all? { |given| status.call(given) == "200" } }
puts JSON.generate(
  before: before,
  away: away,
  screen: screen,
  first_answer: first_answer,
  ended: ended + children.look_after,
  same: children.pids == pids,
  page: status.call(configuration, "/u/nothing.of-ours")
)
children.stop
latecomers.stop
server.stop(pid)
