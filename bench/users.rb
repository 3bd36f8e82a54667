# frozen_string_literal: true

# Twenty people at their desks: reading tables, histories, letters and results, saving records and letters, each over a
# connection of its own that is kept open, against an application that runs. `ruby bench/users.rb [address] [users] [seconds]`;
# start the application with `bin/start` first. Prints how long answers took. Changes nothing that was not so before.

require "json"
require "net/http"
require "uri"

address = URI(ARGV.fetch(0, "http://127.0.0.1:4780"))
users = Integer(ARGV.fetch(1, "20"))
seconds = Float(ARGV.fetch(2, "30"))
abort "This aims at loopback only." unless %w[127.0.0.1 localhost].include?(address.host)

# One person with a browser.
class Desk
  THINKS_SECONDS = 0.0..Float(ENV.fetch("THINKS", "2.0"))
  EVERYBODY = {"all" => []}.freeze
  LEADS = {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}.freeze

  attr_reader :took, :statuses

  def initialize(address, seed)
    @http = Net::HTTP.start(address.host, address.port, read_timeout: 120)
    @http.keep_alive_timeout = 60
    @random = Random.new(seed)
    @took, @statuses, @cookie = [], Hash.new(0), nil
  end

  def sign_in
    session = json(call("GET", "/api/session"))
    abort "No session: #{session}" unless session["csrf"]
    @csrf = session["csrf"]
    demo = session.fetch("demo") || abort("Only the demo hands out a sign-in.")
    call("POST", "/auth/login", demo)
    @csrf = json(call("GET", "/api/session"))["csrf"]
    people = json(call("POST", "/api/people/search", {condition: EVERYBODY, limit: 60}))
    @people = people["people"].map { |row| row["id"] }
    @sequences = json(call("GET", "/api/sequences"))["sequences"].map { |row| row["id"] }
    @letters = json(call("GET", "/api/letters"))["letters"].map { |row| row["id"] }
    @took.clear
    @statuses.clear
  end

  def work(until_time)
    while Process.clock_gettime(Process::CLOCK_MONOTONIC) < until_time
      public_send(%i[today table sieve person history save strip results stack letters write].sample(random: @random))
      sleep(@random.rand(THINKS_SECONDS))
    end
  end

  def today = call("GET", "/api/today")

  def strip = call("GET", "/api/post")

  def table = call("POST", "/api/people/search", {condition: LEADS, limit: 60})

  def sieve = call("POST", "/api/audience/sieve", {audience: {condition: LEADS}})

  def person = call("GET", "/api/people/#{one(@people)}")

  def history = call("GET", "/api/people/#{one(@people)}/history")

  def results = call("GET", "/api/sequences/#{one(@sequences)}/results")

  def stack = call("GET", "/api/sequences/#{one(@sequences)}")

  def letters = call("GET", "/api/letters")

  # The same as it was, so that nothing changes but the version.
  def save
    id = one(@people)
    record = json(call("GET", "/api/people/#{id}"))
    call("PATCH", "/api/people/#{id}", {values: {"person.city" => record.dig("values", "person.city")}, version: record["version"]})
  end

  def write
    id = one(@letters)
    letter = json(call("GET", "/api/letters/#{id}"))
    call("PATCH", "/api/letters/#{id}", {preview: letter["preview"], version: letter["version"]})
  end

  private

  def one(all) = all.sample(random: @random)

  def json(response) = JSON.parse(response.body)

  def call(verb, path, body = nil)
    request = Net::HTTP.const_get(verb.capitalize).new(path, {"Content-Type" => "application/json", "Accept" => "application/json"})
    request["Cookie"] = @cookie if @cookie
    request["X-CSRF-Token"] = @csrf if @csrf
    request.body = JSON.generate(body) if body
    began = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    response = @http.request(request)
    @took << [Process.clock_gettime(Process::CLOCK_MONOTONIC) - began, "#{verb} #{path.gsub(/\d+/, "n")}"]
    @statuses[response.code] += 1
    @cookie = response["set-cookie"][/\A[^;]+/] if response["set-cookie"]
    response
  end
end

desks = Array.new(users) { |n| Desk.new(address, n) }
desks.each(&:sign_in)
ends = Process.clock_gettime(Process::CLOCK_MONOTONIC) + seconds
desks.map { |desk| Thread.new { desk.work(ends) } }.each(&:join)

took = desks.flat_map(&:took).sort
at = ->(share) { took[[(took.size * share).to_i, took.size - 1].min].first * 1000 }
statuses = desks.map(&:statuses).reduce { |all, some| all.merge(some) { |_, a, b| a + b } }
puts format(
  "%d users, %d answers in %.0f s (%s)",
  users,
  took.size,
  seconds,
  statuses.map { |code, count| "#{count} × #{code}" }.join(", ")
)
puts format(
  "half within %.0f ms, 95 %% within %.0f ms, 99 %% within %.0f ms, the longest %.0f ms",
  at.call(0.5),
  at.call(0.95),
  at.call(0.99),
  took.last.first * 1000
)
took.group_by(&:last).sort_by { |_, all| -all.last.first }.first(12).each do |what, all|
  puts format("  %-40s %5d  half %5.0f ms  longest %6.0f ms", what, all.size, all[all.size / 2].first * 1000, all.last.first * 1000)
end
