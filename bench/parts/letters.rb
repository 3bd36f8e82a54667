# frozen_string_literal: true

require_relative "sink"

module Bench
  module_function

  def letters(count = 2000)
    with_database("nimble_letter_bench_letters", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      box = make_mailbox(daily_limit: count)
      people =
        Array.new(count) do |n|
          Records::Person.with_folds(
            {
              first_name: "Ana",
              last_name: "Lark #{n}",
              email: "bench#{n}@house.example",
              standing: "lead",
              consent: "yes",
              created_at: NOW,
              updated_at: NOW
            }
          )
        end
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
      worker = Post::Worker.build(@configuration, transport: -> { transport })
      ours =
        Benchmark.realtime do
          worker.dispatch_due(late) until Records::Delivery.where(sequence_id: sequence.id, state: "due").where { due_at <= late }.empty?
        end
      sent = Records::Delivery.where(sequence_id: sequence.id, state: "sent").count
      raw = "From: a@b.example\r\nSubject: A word about your room\r\n\r\n#{"Dear Ana, how is York? " * 130}\r\n"
      bare = Benchmark.realtime { sent.times { transport.deliver(raw, from: "a@b.example", to: "c@d.example") } }
      puts format(
        "%d letters: %.0f a second from claim to recorded; the bare wire %.0f; ratio %.2f",
        sent,
        sent / ours,
        sent / bare,
        bare / ours
      )
    ensure
      sink&.close
    end
  end
end
