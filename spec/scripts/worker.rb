# frozen_string_literal: true

# A worker that sends what is due and ends; KILL_AT names the place where it kills itself without a word, KILL_ON the letter.
require_relative "../../lib/nimble_letter"

class Killing
  def initialize(name, nth) = (@name, @left = name, nth)

  def reach(name, _delivery)
    return unless name == @name && (@left -= 1).zero?

    Process.kill(:KILL, Process.pid)
    sleep
  end
end

# Dies with half of the letter on the wire.
class HalfWay < NimbleLetter::Post::SmtpTransport
  def initialize(nth:, **rest)
    super(**rest)
    @left = nth
  end

  def deliver(raw, from:, to:)
    return super unless (@left -= 1).zero?

    connection.open_message_stream(from, to) do |stream|
      stream.write(raw[0, raw.size / 2])
      Process.kill(:KILL, Process.pid)
      sleep
    end
  end
end

configuration = NimbleLetter::Configuration.new
NimbleLetter::Records.connect(configuration)
place = ENV["KILL_AT"]&.to_sym
nth = ENV.fetch("KILL_ON", "3").to_i
options = {}
options[:transport] = HalfWay.new(host: "127.0.0.1", port: configuration.smtp_port, nth: nth) if place == :half_way
options[:checkpoints] = Killing.new(place, nth) if place && place != :half_way
worker = NimbleLetter::Post::Worker.build(configuration, **options)
worker.recover
worker.dispatch_due(NimbleLetter::Practice::Clock.new.now)
