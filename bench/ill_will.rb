# frozen_string_literal: true

# What large, endless and guessing requests cost an application that runs: memory of the web process, and how long other
# people wait meanwhile. `ruby bench/ill_will.rb [address] [folder]`; start the application with `bin/start` first. Aims at
# loopback only, ends by itself, and changes nothing but the log of what matters to safety.

require "json"
require "net/http"
require "socket"
require "uri"

address = URI(ARGV.fetch(0, "http://127.0.0.1:4780"))
folder = ARGV.fetch(1, "var")
abort "This aims at loopback only." unless %w[127.0.0.1 localhost].include?(address.host)
MB = 1024 * 1024
web = Integer(File.read(File.join(folder, "processes", "web")).split.first)

memory = -> { File.read("/proc/#{web}/status")[/^VmRSS:\s+(\d+)/, 1].to_i / 1024 }
clock = -> { Process.clock_gettime(Process::CLOCK_MONOTONIC) }
milliseconds = ->(&block) { clock.call.then { |from| block.call && ((clock.call - from) * 1000) } }
page = -> { milliseconds.call { Net::HTTP.get_response(address.host, "/u/nothing.of-ours", address.port) } }

# Somebody else, who only wants to read a page.
beside = lambda do |what, &block|
  before, over, took = memory.call, false, []
  reader = Thread.new { (took << page.call) && sleep(0.02) until over }
  status = nil
  seconds = milliseconds.call { status = block.call } / 1000
  over = true
  reader.join
  puts format("%-52s %-24s %6.1f s, memory %+4d MB, other people wait at most %5.0f ms",
    what, status, seconds, memory.call - before, took.max)
end

session = Net::HTTP.get_response(address + "/api/session")
cookie, token = session["set-cookie"].to_s[/\A[^;]+/], JSON.parse(session.body)["csrf"]
headers = {"Content-Type" => "application/json", "Cookie" => cookie, "X-CSRF-Token" => token}
post = ->(path, body) { Net::HTTP.post(address + path, body, headers) }
refused = ->(response) { "#{response.code} #{JSON.parse(response.body).dig("error", "code")}" }

puts "The web process holds #{memory.call} MB"
large = JSON.generate(email: "x" * 40 * MB, password: "x")
beside.call("40 MB of JSON to the sign-in") { refused.call(post.call("/auth/login", large)) }
beside.call("40 MB of JSON to the API, signed out") { refused.call(post.call("/api/people", large)) }
beside.call("ten times 40 MB at once to the sign-in") do
  Array.new(10) { Thread.new { refused.call(post.call("/auth/login", large)) } }.map(&:value).tally.to_s
end
beside.call("a body in pieces, without end") do
  socket = TCPSocket.new(address.host, address.port)
  socket.write("POST /auth/login HTTP/1.1\r\nHost: #{address.host}\r\nContent-Type: application/json\r\n" \
    "Transfer-Encoding: chunked\r\n\r\n")
  sent, piece = 0, "100000\r\n#{"x" * MB}\r\n"
  begin
    sent += socket.write(piece) while sent < 1024 * MB
    "#{sent / MB} MB taken"
  rescue Errno::EPIPE, Errno::ECONNRESET
    "cut off at #{sent / MB} MB"
  ensure
    socket.close
  end
end

# Known addresses of the demo, and as many that nobody has; fewer tries than slow anybody down.
known = %w[maren idris petra tomas].map { |name| "#{name}@ternandfallow.example" }
try = ->(email) { post.call("/auth/login", JSON.generate(email: email, password: "wrong")) }
milliseconds.call { try.call("first@ternandfallow.example") }
took = known.map { |email| [email, email.sub("@", ".x@")].map { |one| milliseconds.call { try.call(one) } } }
there, not_there = took.transpose
median = ->(list) { list.sort[list.size / 2] }
puts format("a wrong password: %.0f ms for an address that somebody has, %.0f ms for one that nobody has (medians of %d)",
  median.call(there), median.call(not_there), known.size)
