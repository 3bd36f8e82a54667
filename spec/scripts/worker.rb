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
module HalfWay
  class << self
    attr_accessor :left
  end

  def hand_over(raw, *)
    return super unless (HalfWay.left -= 1).zero?

    put(raw.byteslice(0, raw.bytesize / 2), 5)
    Process.kill(:KILL, Process.pid)
    sleep
  end
end

configuration = NimbleLetter::Configuration.new
NimbleLetter::Records.connect(configuration)
place = ENV["KILL_AT"]&.to_sym
nth = ENV.fetch("KILL_ON", "3").to_i
options = {}
if place == :half_way
  NimbleLetter::Post::SmtpLine.prepend(HalfWay)
  HalfWay.left = nth
end
options[:checkpoints] = Killing.new(place, nth) if place && place != :half_way
worker = NimbleLetter::Post::Worker.build(configuration, **options)
worker.recover
worker.dispatch_due(NimbleLetter::Practice::Clock.new.now)
