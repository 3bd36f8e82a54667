# frozen_string_literal: true

# Measures the speeds that matter, each against the same thing done by hand in the same run. `ruby bench/figures.rb [what]`
# with what any of: conditions, pages, imports, rendering, letters, journey, starts, drafts, desks, plans, rehearsals, joining,
# results, advance, bounds. Writes nothing; bench/README.md holds the figures.

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
ENV["BUNDLE_PATH"] ||= File.expand_path("../vendor/bundle", __dir__)
require "bundler/setup"
require "benchmark"
require "date"
require "socket"
require_relative "../lib/nimble_letter"
include NimbleLetter # rubocop:disable Style/MixinUsage -- the builders of the specs name things so

module Bench
  NOW = Time.utc(2026, 5, 12, 8)
  TODAY = Date.new(2026, 5, 12)
  PEOPLE = Integer(ENV.fetch("PEOPLE", 200_000))
  EVENTS = Integer(ENV.fetch("EVENTS", 3_000_000))
  RUNS = 7

  module_function

  def configuration_for(name)
    @configuration =
      Configuration.new(
        ENV.to_h.merge(
          "NIMBLE_VAR" => ENV.fetch("NIMBLE_VAR", "var-bench"),
          "NIMBLE_DATABASE" => name,
          "PORT" => Processes::Ports.any.to_s,
          "SMTP_PORT" => Processes::Ports.any.to_s,
          "LOOKUP_PORT" => Processes::Ports.any.to_s,
          "DB_PORT" => ENV.fetch("BENCH_DB_PORT", Processes::Ports.any).to_s
        )
      )
  end

  def with_database(name = "nimble_letter_bench", fresh: false)
    ENV["NIMBLE_DB_MEMORY"] ||= "2G"
    configuration = configuration_for(name)
    server = Processes::DatabaseServer.new(configuration)
    pid = server.start
    Records.connect(configuration)
    Records.begin_anew(configuration) if fresh
    Records.migrate(configuration)
    yield
  ensure
    server.stop(pid) if pid
  end

  # @return [Float] milliseconds, the median of some runs
  def median(runs = RUNS) = Array.new(runs) { Benchmark.realtime { yield } }.sort[runs / 2] * 1000

  def sql = Records::ConditionSql.new(now: NOW, today: TODAY, me: 1)

  def tree(json) = Records::FieldCatalogue.parser.parse!(json)

  # @return [String] how the database goes about it, one table a line
  def plan(dataset) =
    Records
      .db
      .fetch("EXPLAIN #{dataset.sql}")
      .map { |row| "    #{row.values_at(:table, :type, :key, :rows, :Extra).compact.join(" · ")}" }
      .join("\n")
end

all = %w[conditions pages imports rendering letters journey starts drafts desks rehearsals joining results advance bounds]
wanted = ARGV.empty? ? all : ARGV
if wanted.size == 1
  require_relative "parts/#{wanted.first}"
  Bench.public_send(wanted.first)
else
  # Each in a process of its own: models stay with the database they were first read from.
  wanted.each { |what| system(RbConfig.ruby, __FILE__, what, exception: true) }
end
