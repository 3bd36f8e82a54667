# frozen_string_literal: true

module Bench
  module_function

  # A plan of 60 steps with forks and 10,000 people: opened and changed as a draft, then running: opened, its members by page, name and
  # place, one member's way.
  def plans(count = 10_000)
    with_database("nimble_letter_bench_plans", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      draft = make_sequence(people: [], letters: [], mailbox: make_mailbox(daily_limit: count))
      make_people(count)
      draft.update(audience: {"condition" => {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}})
      by = -> { Work::Moment.new(now: NOW, account: nil) }
      Work::PlanSequence.change(draft, {version: draft.version, steps: sixty_steps}, moment: by.call)
      open = -> { Web::SequenceJson.new(Records::Sequence[draft.id], by.call).write }
      change = -> do
        sequence = Records::Sequence[draft.id]
        input = {version: sequence.version, steps: sixty_steps}
        Web::SequenceJson.new(Work::PlanSequence.change(sequence, input, moment: by.call), by.call).write
      end
      puts format("%d steps, %d people: the draft is opened in %.0f ms, laid out anew in %.0f ms", Records::Step.count, count,
        median { open.call }, median { change.call })
      start(Records::Sequence[draft.id])
      running(draft.id, open, by)
    end
  end

  def running(id, open, by)
    puts format("running: opened in %.0f ms", median { open.call })
    {"as they joined" => {}, "by name" => {"sort" => "name"}, "by their next letter" => {"sort" => "next"},
     "found by a word" => {"words" => "lark 99"}}.each do |what, asked|
      page = -> do
        table = Work::MemberTable.new(Records::Sequence[id], asked)
        [Web::MemberJson.rows(table.page(0)), table.total]
      end
      puts format("a page of members %s: %.0f ms", what, median { page.call })
    end
    changed(id, by)
    puts format("its results, with those who stayed quiet: %.0f ms", median { Work::Results.new(Records::Sequence[id]).call })
    member = Records::Member.where(sequence_id: id).first
    puts format("one member's way: %.0f ms", median { Work::WayThrough.of_member(Records::Member[member.id], by.call).ahead })
  end

  # A change of it, proposed and shown again, and then counted.
  def changed(id, by)
    steps = Work::StepInputs.of(Records::Sequence[id])
    propose = -> do
      change = Work::ChangePlan.new(Records::Sequence[id], by.call)
      steps.first["amount"] += 1
      change.propose({steps: steps}, version: change.sequence.proposal_version)
      Web::SequenceJson.proposed(change, by.call)
    end
    puts format("a change proposed and shown: %.0f ms", median { propose.call })
    puts format("counted: %.0f ms", median(1) { Work::ChangePlan.new(Records::Sequence[id], by.call).reckon.counts })
  end

  # Ten times a letter, a fork of two lanes with a letter in each, a task and a change.
  def sixty_steps
    @letters ||= Array.new(6) { make_letter(body: "Dear {{first name}}, how is {{city}}? Yours, {{sender name}}") }
    letter = ->(i, days = 3) { {"kind" => "letter", "letter_id" => @letters[i % 6].id, "amount" => days, "unit" => "working_days"} }
    Array.new(10) { |n|
      lanes = [{"test" => {"kind" => "opened"}, "steps" => [letter.call(n + 1)]}, {"test" => nil, "steps" => [letter.call(n + 2)]}]
      [letter.call(n), {"kind" => "fork", "within" => {"amount" => 3, "unit" => "working_days"}, "lanes" => lanes},
        {"kind" => "task", "words" => "Ring them", "waits" => false, "amount" => 1},
        {"kind" => "change", "what" => "tag", "to" => {"names" => ["x#{n}"]}, "amount" => 0}]
    }.flatten
  end
end
