# frozen_string_literal: true

module Bench
  module_function

  # A draft of 10,000 people and eight letters: opened, renamed, a step changed, and who reads its first letter.
  def drafts(count = 10_000, letters = 8)
    with_database("nimble_letter_bench_drafts", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      body = "Dear {{first name}}, how is {{city}}? Yours, {{sender name}}"
      some = Array.new(letters) { make_letter(body: body) }
      sequence = make_sequence(people: [], letters: some, mailbox: make_mailbox(daily_limit: count))
      make_people(count)
      sequence.update(audience: {"condition" => {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}})
      by = -> { Work::Moment.new(now: NOW, account: nil) }
      open = -> { Web::SequenceJson.new(Records::Sequence[sequence.id], by.call).write }
      rename = -> do
        draft = Records::Sequence[sequence.id]
        changed = Work::PlanSequence.change(draft, {version: draft.version, name: "N#{draft.version}"}, moment: by.call)
        Web::SequenceJson.new(changed, by.call).write
      end
      stack = -> { Work::StackList.new(Records::Sequence[sequence.id].steps.last, by.call).call }
      far = -> { Work::StackList.new(Records::Sequence[sequence.id].steps.last, by.call).call(from: count - 200) }
      reader = -> { Work::Stack.new(Records::Sequence[sequence.id].steps.last, by.call).reader }
      json = open.call
      puts format("%d people x %d letters: a draft is opened in %.0f ms, renamed in %.0f ms; whose letter to show %.0f ms",
        json[:sieve][:would_get_it], json[:steps].size, median { open.call }, median { rename.call }, median { reader.call })
      puts format("the letters of a step: the first page in %.0f ms, the last in %.0f ms", median { stack.call }, median { far.call })
    end
  end
end
