# frozen_string_literal: true

module Bench
  module_function

  # 10,000 people and eight letters with two forks, from a mailbox with a limit: nobody answers, everybody opens, and each by rates with a
  # seed. Then as by rates from one that lets a letter go every twenty seconds to a minute, in the hours of its firm.
  def rehearsals(count = 10_000)
    with_database("nimble_letter_bench_rehearsals", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      box = make_mailbox(daily_limit: 2500)
      letters = Array.new(8) { make_letter }
      make_people(count)
      draft = make_sequence(people: [], letters: [], mailbox: box)
      draft.update(audience: {"condition" => {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}})
      step = ->(letter, days = 2) { {"kind" => "letter", "letter_id" => letter.id, "amount" => days, "unit" => "working_days"} }
      fork = ->(kind, lane, otherwise) do
        {"kind" => "fork", "within" => {"amount" => 3, "unit" => "working_days"},
         "lanes" => [{"test" => {"kind" => kind}, "steps" => [lane]}, {"test" => nil, "steps" => [otherwise]}]}
      end
      steps = [step.call(letters[0], 0), fork.call("opened", step.call(letters[1]), step.call(letters[2])), step.call(letters[3]),
        fork.call("clicked", step.call(letters[4]), step.call(letters[5])), *letters[6..7].map { |letter| step.call(letter) },
        *letters[0..1].map { |letter| step.call(letter) }]
      Work::PlanSequence.change(draft, {version: draft.version, steps: steps}, moment: moment)
      some = Core::Rehearsing::Assumption::Rates.new(opened: 0.45, clicked: 0.2, replied: 0.04, bounced: 0.01)
      rates = Core::Rehearsing::Assumption.new(some, seed: 7)
      pace = {pace_from: 20, pace_to: 60, hours_from: 540, hours_to: 1020}
      {"nobody answers" => Core::Rehearsing::Assumption.nobody, "everybody opens" => Core::Rehearsing::Assumption.everybody_opens,
       "by rates, with a seed" => rates, "at a pace" => rates}.each do |what, assumption|
        letters = nil
        box.update(pace) if what == "at a pace"
        seconds = Array.new(3) {
          Benchmark.realtime { letters = Work::Rehearse.new(Records::Sequence[draft.id], moment, assumption: assumption).run.letters.size }
        }.min
        puts format("%-24s %6d letters in %.2f s", what, letters, seconds)
      end
    end
  end
end
