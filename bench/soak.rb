# frozen_string_literal: true

# Runs web, two workers, a sender, a clerk and a database for some minutes, and makes life hard for them: one of them is killed every
# few seconds, the mail server misbehaves at every stage, and odd mail comes among ordinary mail. Then counts what came of
# it. `ruby bench/soak.rb [minutes] [seed]`; everything is its own, under var-soak, on loopback, and ends by itself.

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
ENV["BUNDLE_PATH"] ||= File.expand_path("../vendor/bundle", __dir__)
require "bundler/setup"
require "net/http"
require "fileutils"
require_relative "../lib/nimble_letter"
include NimbleLetter # rubocop:disable Style/MixinUsage -- the builders of the specs name things so

require_relative "../spec/support/builders_alone"
require_relative "../spec/support/transports"
require_relative "../spec/support/plan_input"
require_relative "parts/hard_life"

minutes = Float(ARGV.fetch(0, "60"))
seed = Integer(ARGV.fetch(1, "1"))
abort "From 0.5 minutes up." if minutes < 0.5
HardLife.new(minutes: minutes, seed: seed).live
