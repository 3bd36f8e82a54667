# frozen_string_literal: true

module Bench
  module_function

  # A draft of 10,000 people and three letters: the ready check, the start, and a step of all of them behind.
  def starts(count = 10_000, letters = 3)
    with_database("nimble_letter_bench_starts", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      sequence = make_sequence(people: [], letters: Array.new(letters) { make_letter }, mailbox: make_mailbox(daily_limit: count))
      sequence.update(audience: {"people" => make_people(count)})
      Records::Firm.save(postal_address: "4 Felt Yard")
      ready = nil
      checked = Benchmark.realtime { ready = Work::ReadyCheck.new(sequence, moment).call }
      account = Records::Account.create(email: "a@house.example", name: "Ana Lark", role: "admin", created_at: NOW)
      by = Work::Moment.new(now: NOW, account: account)
      read_back = {version: sequence.version, letters: ready[:letters], moment: by}
      looked = Benchmark.realtime { in_vain { Work::StartSequence.call(sequence, **read_back) } }
      started = Benchmark.realtime { Work::StartSequence.call(sequence.refresh, seen: ready[:seen], **read_back) }
      outlook = Work::Outlook.new(sequence.refresh, by)
      laid_out = Benchmark.realtime { outlook.rows }
      puts format("%d people x %d letters: checked in %.1f s, laid out in %.1f s, started in %.1f s (all looked at again: %.1f s)",
        count, letters, checked, laid_out, started, looked)
      puts format("  written down: %d letters", Records::Delivery.count)
    end
  end

  # Does it, and takes it back.
  def in_vain
    Records.db.transaction(rollback: :always) { yield }
  end
end
