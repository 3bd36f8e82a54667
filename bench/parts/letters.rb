# frozen_string_literal: true

require_relative "sink"
require_relative "rendering"

module Bench
  OLD_LETTERS = Integer(ENV.fetch("OLD", 1_000_000))
  LATE = Time.utc(2026, 5, 12, 10, 25)

  module_function

  # Letters through the real dispatch to a server that answers at once, plain and designed, on one lane and on lanes side by side, with
  # a million letters that were sent before; then as many messages over the bare wire.
  def letters(count = 2000)
    with_database("nimble_letter_bench_letters", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      Records::Firm.save(postal_address: "4 Felt Yard")
      people = make_people(count)
      sink = Sink.new
      sent_before(people)
      plain, designed = [make_letter, make_letter(name: "Two")], [designed_letter, make_letter(name: "Two")]
      runs = {"plain, in one process" => [plain, 1], "plain, in two" => [plain, 2], "designed, in two" => [designed, 2]}
      runs.each do |what, (some, hands)|
        puts format("%-22s %4.0f letters a second from claim to recorded", what, count / sent_in(people, some, hands, sink))
      end
      bare(count, sink)
    ensure
      sink&.close
    end
  end

  # By as many processes as `bin/start` has for it, from four mailboxes.
  # @return [Float] seconds
  def sent_in(people, letters, hands, sink)
    boxes = Array.new(4) { make_mailbox(daily_limit: people.size) }
    people.each_slice(people.size / boxes.size).zip(boxes).each do |some, box|
      sequence = make_sequence(people: [], letters: letters, mailbox: box)
      sequence.update(audience: {"people" => some})
      start(sequence)
    end
    due = Records::Delivery.where(state: "due", mailbox_id: boxes.map(&:id))
    due.update(due_at: LATE - 60)
    Practice::Clock.new.set(NOW)
    seconds = with_senders(hands, sink) do
      Benchmark.realtime do
        Practice::Clock.new.set(LATE)
        IO.select(nil, nil, nil, 0.05) until sent(boxes) == people.size
      end
    end
    told = Records::Event.where(kind: "sent", delivery_id: sent_ids(boxes)).count
    raise Error, "#{told} letters were told, not #{people.size}" unless told == people.size

    seconds
  end

  def sent_ids(boxes) = Records::Delivery.where(state: "sent", mailbox_id: boxes.map(&:id)).select(:id)

  def sent(boxes) = sent_ids(boxes).count

  def with_senders(hands, sink)
    at_sink = Configuration.new(ENV.to_h.merge("NIMBLE_VAR" => @configuration.var, "NIMBLE_DATABASE" => @configuration.database,
      "DB_PORT" => @configuration.db_port.to_s, "SMTP_PORT" => sink.port.to_s, "PORT" => @configuration.port.to_s))
    children = Processes::Children.new(at_sink)
    hands.times { |n| children.start("sender", as: "sender #{n + 1}") }
    # They are there when they have looked for something to do.
    IO.select(nil, nil, nil, 6)
    yield
  ensure
    children.stop
  end

  def bare(count, sink)
    transport = Post::SmtpTransport.new(host: "127.0.0.1", port: sink.port)
    raw = "From: a@b.example\r\nSubject: A word about your room\r\n\r\n#{"Dear Ana, how is York? " * 130}\r\n"
    wire = Benchmark.realtime { count.times { transport.deliver(raw, from: "a@b.example", to: "c@d.example") } }
    puts format("%-22s %4.0f messages a second", "the bare wire", count / wire)
  end

  # Long ago, to all of them, from one mailbox.
  def sent_before(people)
    sequence = start(make_sequence(people: [make_person], letters: [make_letter]))
    member = sequence.members_dataset.first
    Records.db.run("SET unique_checks = 0")
    (1..OLD_LETTERS).each_slice(100_000) do |some|
      Records.db.run(<<~SQL)
        INSERT INTO deliveries (`key`, member_id, sequence_id, step_id, person_id, letter_id, mailbox_id, state, due_at, sent_at, round)
        SELECT CONCAT('old', seq), #{member.id}, #{sequence.id}, #{sequence.steps.first.id}, #{people.first} + seq % #{people.size},
          #{sequence.steps.first.letter_id}, #{member.mailbox_id}, 'sent', '2023-01-01' + INTERVAL seq MINUTE,
          '2023-01-01' + INTERVAL seq MINUTE, seq + 1 FROM seq_#{some.first}_to_#{some.last}
      SQL
    end
  end
end
