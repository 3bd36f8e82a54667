# frozen_string_literal: true

# Measures the speeds that matter, each against the same thing done by hand in the same run. `ruby bench/figures.rb [what]`
# with what one of: conditions, letters, journey. Writes nothing; bench/README.md holds the figures.

ENV["BUNDLE_GEMFILE"] ||= File.expand_path("../Gemfile", __dir__)
require "bundler/setup"
require "benchmark"
require "socket"
require_relative "../lib/nimble_letter"
include NimbleLetter # rubocop:disable Style/MixinUsage -- the builders of the specs name things so

module Bench
  NOW = Time.utc(2026, 5, 12, 8)
  PEOPLE = Integer(ENV.fetch("PEOPLE", 200_000))
  EVENTS = Integer(ENV.fetch("EVENTS", 3_000_000))

  module_function

  def configuration_for(name)
    @configuration = Configuration.new(ENV.to_h.merge("NIMBLE_VAR" => ENV.fetch("NIMBLE_VAR", "var-bench"), "NIMBLE_DATABASE" => name,
      "PORT" => Processes::Ports.any.to_s, "SMTP_PORT" => Processes::Ports.any.to_s, "DB_PORT" => ENV.fetch("DB_PORT", Processes::Ports.any).to_s))
  end

  def with_database(name = "nimble_letter_bench", fresh: false)
    ENV["NIMBLE_DB_MEMORY"] ||= "2G"
    configuration = configuration_for(name)
    server = Processes::DatabaseServer.new(configuration)
    pid = server.start
    Records.connect(configuration)
    Records.begin_anew(configuration) if fresh
    Records.migrate
    yield
  ensure
    server.stop(pid) if pid
  end

  def fill
    have = Records.db[:people].count
    return if have == PEOPLE

    raise Error, "#{have} people are there; remove the folder #{@configuration.var} to begin anew" if have.positive?

    puts "Filling #{PEOPLE} people and #{EVENTS} events"
    random = Random.new(1)
    companies = Array.new(5000) { |n| ["House #{n}", "house #{n}", %w[restaurant school studio office][n % 4], NOW] }
    Records.db[:companies].import(%i[name name_fold type created_at], companies)
    cities = Demo::Words::CITIES
    columns = %i[company_id standing first_name first_name_fold last_name last_name_fold city city_fold email email_fold search_fold consent created_at updated_at]
    (1..PEOPLE).each_slice(5000) do |numbers|
      rows = numbers.map do |n|
        city = cities[random.rand(cities.size)]
        first = Demo::Words::FIRST[n % Demo::Words::FIRST.size]
        [random.rand(1..5000), %w[lead lead client partner][n % 4], first, first.downcase, "Lark #{n}", "lark #{n}", city, city.downcase, "p#{n}@house.example", "p#{n}@house.example", "#{first.downcase} lark #{n}", "unknown", NOW, NOW]
      end
      Records.db[:people].import(columns, rows)
    end
    kinds = %w[sent sent sent sent opened opened clicked replied]
    (1..EVENTS).each_slice(10_000) do |numbers|
      Records.db[:events].import(%i[kind person_id occurred_at], numbers.map { |n| [kinds[n % 8], random.rand(1..PEOPLE), NOW - random.rand(0..31_536_000)] })
    end
    Records.db.run("ANALYZE TABLE people, companies, events")
  end

  # The same question, as the product asks it and as one would write it by hand.
  CONDITIONS = {
    "leads in York or Leeds" => [
      {"all" => [{"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}, {"field" => "person.city", "is" => "one_of", "value" => %w[York Leeds]}]},
      "SELECT COUNT(*) FROM people WHERE standing = 'lead' AND city_fold IN ('york', 'leeds')"
    ],
    "opened in the last 30 days" => [
      {"activity" => "opened", "within_days" => 30},
      "SELECT COUNT(*) FROM people p WHERE EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id AND e.kind = 'opened' AND e.by_machine = 0 AND e.occurred_at BETWEEN '2026-04-12 08:00:00' AND '2026-05-12 08:00:00')"
    ],
    "restaurants that had a letter and did not reply in 90 days" => [
      {"all" => [{"field" => "company.type", "is" => "one_of", "value" => ["restaurant"]}, {"activity" => "had_letter", "within_days" => 90}, {"not" => {"activity" => "replied", "within_days" => 90}}]},
      "SELECT COUNT(*) FROM people p WHERE p.company_id IN (SELECT id FROM companies WHERE type = 'restaurant') AND EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id AND e.kind = 'sent' AND e.by_machine = 0 AND e.occurred_at BETWEEN '2026-02-11 08:00:00' AND '2026-05-12 08:00:00') AND NOT EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id AND e.kind = 'replied' AND e.by_machine = 0 AND e.occurred_at BETWEEN '2026-02-11 08:00:00' AND '2026-05-12 08:00:00')"
    ]
  }.freeze

  def conditions
    with_database do
      fill
      sql = Records::ConditionSql.new(now: NOW, today: Date.new(2026, 5, 12))
      CONDITIONS.each do |name, (json, by_hand)|
        ours = -> { Records::Person.where(sql.read(Core::Conditions::Parser.new.parse!(json))).count }
        theirs = -> { Records.db[by_hand].single_value }
        raise Error, "#{name}: #{ours.call} and #{theirs.call} people" unless ours.call == theirs.call

        times = Array.new(7) { [Benchmark.realtime { ours.call }, Benchmark.realtime { theirs.call }] }
        mine, hand = times.transpose.map { |all| all.sort[3] * 1000 }
        puts format("%-62s %8d people  %7.1f ms, by hand %7.1f ms: %.2f", name, ours.call, mine, hand, mine / hand)
      end
    end
  end

  # Takes letters and answers at once; nothing else.
  class Sink
    attr_reader :port

    def initialize
      server = TCPServer.new("127.0.0.1", 0)
      @port = server.addr[1]
      @pid = fork { loop { Thread.new(server.accept) { |socket| talk(socket) } } }
      server.close
    end

    def close
      Process.kill(:KILL, @pid)
      Process.wait(@pid)
    end

    private

    def talk(socket)
      socket.setsockopt(Socket::IPPROTO_TCP, Socket::TCP_NODELAY, 1)
      socket.write("220 sink\r\n")
      while (line = socket.gets)
        if line.start_with?("DATA")
          socket.write("354 go on\r\n")
          line = socket.gets until line == ".\r\n"
        end
        socket.write("250 ok\r\n")
      end
    rescue SystemCallError
      nil
    end
  end

  def letters(count = 2000)
    with_database("nimble_letter_bench_letters", fresh: true) do
      require_relative "../spec/support/builders_alone"
      extend ::Builders

      box = make_mailbox(daily_limit: count)
      people = Array.new(count) { |n| Records::Person.with_folds({first_name: "Ana", last_name: "Lark #{n}", email: "bench#{n}@house.example", standing: "lead", consent: "yes", created_at: NOW, updated_at: NOW}) }
      first = (Records.db[:people].max(:id) || 0) + 1
      Records.db[:people].multi_insert(people, slice: 1000)
      ids = Records.db[:people].where { id >= first }.select_map(:id)
      sequence = make_sequence(people: [], letters: [make_letter, make_letter(name: "Two")], mailbox: box)
      sequence.update(audience: {"people" => ids})
      start(sequence)
      late = Time.utc(2026, 5, 12, 10, 25)
      Records::Delivery.where(sequence_id: sequence.id, state: "due").update(due_at: late - 60)
      sink = Sink.new
      transport = Post::SmtpTransport.new(host: "127.0.0.1", port: sink.port)
      worker = Post::Worker.build(@configuration, transport: transport)
      ours = Benchmark.realtime { worker.dispatch_due(late) until Records::Delivery.where(sequence_id: sequence.id, state: "due").where { due_at <= late }.empty? }
      sent = Records::Delivery.where(sequence_id: sequence.id, state: "sent").count
      raw = "From: a@b.example\r\nSubject: A word about your room\r\n\r\n#{"Dear Ana, how is York? " * 130}\r\n"
      bare = Benchmark.realtime { sent.times { transport.deliver(raw, from: "a@b.example", to: "c@d.example") } }
      puts format("%d letters: %.0f a second from claim to recorded; the bare wire %.0f; ratio %.2f", sent, sent / ours, sent / bare, bare / ours)
    ensure
      sink&.close
    end
  end

  def journey(members = 10_000, steps = 8)
    plan = Core::Journey::Plan.new(steps: Array.new(steps) { |i| Core::Journey::Step.new(id: i, letter_id: i, timing: Core::Calendar::Timing.new(amount: i.zero? ? 0 : 3)) })
    zones = %w[Europe/London Europe/Paris America/New_York].map { |name| Core::Calendar::Zones.fetch(name) }
    machine = Core::Journey::Machine.new(plan, calendar: Core::Calendar::WorkCalendar.new(holidays: [Date.new(2026, 5, 25)]), our_zone: zones.first)
    letters = 0
    seconds = Benchmark.realtime do
      members.times { |n| letters += machine.outlook(Core::Journey::Machine::Place.new(0, NOW), their_zone: zones[n % 3], seed: n).size }
    end
    puts format("%d members x %d steps: %d letters laid out in %.2f s", members, steps, letters, seconds)
  end
end

wanted = ARGV.empty? ? %w[conditions letters journey] : ARGV
wanted.each { |what| Bench.public_send(what) }
