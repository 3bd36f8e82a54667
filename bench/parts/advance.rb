# frozen_string_literal: true

module Bench
  module_function

  # Members of a plan with a fork, a change and a condition, all due at once: how many are carried on in a second, over a stretch
  # of the journey at a time.
  def advance(count = 10_000, hands: Integer(ENV.fetch("HANDS", 2)))
    with_database("nimble_letter_bench_advance", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      sequence = make_sequence(people: [], letters: [], mailbox: make_mailbox(daily_limit: count))
      sequence.update(audience: {"people" => make_people(count)})
      Records::Firm.save(postal_address: "4 Felt Yard")
      Work::PlanSequence.change(sequence, {version: 1, steps: forked_plan(make_letter.id, make_letter.id)}, moment: moment)
      start(sequence.refresh)
      while (last = Records::Member.active.max(:due_at))
        at = last + 60
        carried = 0
        seconds = Benchmark.realtime { carried = Work::AdvanceMembers.round(moment(at), hands: hands) }
        puts format("%d members carried on in %.2f s, %d a second (%s)", carried, seconds, carried / seconds,
          Records::Member.group_and_count(:state, :waits_for).all.map { |row| row.values.values.join(" ") }.join(", "))
      end
    end
  end

  # @return [Array<Hash>] see StepInput in the contract
  def forked_plan(letter, other)
    lead = {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}
    at_once = {"amount" => 0, "unit" => "minutes", "from_minute" => 0, "to_minute" => 1440, "days" => "any"}
    [
      {"kind" => "letter", "letter_id" => letter, "only_for" => lead, "not_after" => {"seconds" => 30}, **at_once, "amount" => 60},
      {"kind" => "fork", "within" => {"amount" => 2, "unit" => "days"}, "lanes" => [
        {"test" => {"kind" => "opened"}, "steps" => [{"kind" => "letter", "letter_id" => other, **at_once}]},
        {"test" => nil, "steps" => [{"kind" => "change", "what" => "tag", "to" => {"names" => ["quiet"]}, **at_once}]}
      ]},
      {"kind" => "letter", "letter_id" => other, **at_once, "amount" => 1, "unit" => "days"}
    ]
  end
end
