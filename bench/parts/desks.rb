# frozen_string_literal: true

module Bench
  module_function

  # One letter to 20,000 people: begun, opened, and all that the desk asks for as somebody stops typing.
  def desks(count = 20_000)
    with_database("nimble_letter_bench_desks", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      maren = make_account
      make_mailbox(account_id: maren.id, daily_limit: count)
      make_people(count)
      leads = {"condition" => {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}}
      by = -> { Work::Moment.new(now: NOW, account: maren) }
      begin_one = -> do
        made = Work::PlanSequence.make(name: nil, audience: leads, letter: {}, moment: by.call)
        Web::SequenceJson.new(made, by.call).write
      end
      puts format("one letter to %d people: begun in %.0f ms", begin_one.call[:sieve][:would_get_it], median { begin_one.call })
      sequence = Records::Sequence.order(:id).last
      letter = sequence.steps.first.letter
      letter.update(subject: document("A word"), body: document("Dear {{first name}}, how is {{city}}? Yours, {{sender name}}"))
      audience = -> { Work::LetterAudience.new(letter, by.call, sequence_id: sequence.id) }
      asked = {
        "the letter" => -> { Web::LetterJson.write(Records::Letter[letter.id]) },
        "the sequence" => -> { Web::SequenceJson.new(Records::Sequence[sequence.id], by.call).write },
        "one reader" => -> { Work::LookAtLetter.new(letter, Records::Person.first, by.call, sequence_id: sequence.id).json },
        "its checks" => -> { Work::LetterChecks.new(letter, by.call, sequence_id: sequence.id).call },
        "who lacks a field" => -> { audience.call.without("person.first_name").count },
        "the sieve" => -> { by.call.sieving(by.call.audience(leads)).account },
        "what sending means" => -> { Work::ReadyCheck.new(Records::Sequence[sequence.id], by.call).call }
      }
      asked.each { |what, ask| puts format("  %-20s %.0f ms", what, median { ask.call }) }
    end
  end
end
