# frozen_string_literal: true

module Bench
  SEQUENCES = Integer(ENV.fetch("SEQUENCES", 16))

  module_function

  # Sixteen sequences that have sent their eight letters to 10,000 people each: the results of one of them beside two statements by hand,
  # those of all, the list of sequences, the library, and the rates of a rehearsal "as last time".
  def results(count = 10_000)
    with_database("nimble_letter_bench_results", fresh: true) do
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      letters = Array.new(8) { |n| make_letter(name: "Letter #{n + 1}") }
      box = make_mailbox(daily_limit: count)
      crowds = make_people(count * SEQUENCES).each_slice(count).to_a
      sequences = crowds.map { |ids| done_with(ids, letters, box) }
      Records.db.run("ANALYZE TABLE deliveries, events, members")
      puts format("%d letters sent, %d events", Records::Delivery.where(state: "sent").count, Records::Event.count)
      timed(sequences.last, crowds.last)
    end
  end

  def timed(sequence, ids)
    by_hand = -> do
      Records.db.fetch("SELECT step_id, state, heard, COUNT(*) FROM deliveries WHERE sequence_id = ? GROUP BY step_id, state, heard",
        sequence.id).all
      Records.db.fetch("SELECT step_id, person_id, MAX(heard & 7) AS m FROM deliveries WHERE sequence_id = ? GROUP BY step_id, " \
        "person_id HAVING m = 0", sequence.id).all
    end
    account = make_account
    {
      "results of #{ids.size} people, eight letters" => -> { Work::Results.new(Records::Sequence[sequence.id]).call },
      "  letters and who stayed quiet, by hand" => by_hand,
      "results of all sequences" => -> { Records::Sequence.all.map { |one| Work::Results.new(one).call[:total] } },
      "the list of sequences" => -> { Web::SequenceRows.write(Records::Sequence.all) },
      "the library" => -> { Web::LetterJson.rows(Records::Letter.all, account) },
      "  how its letters did" => -> { Web::LetterJson.figures },
      "rates as last time, of #{ids.size} people" => -> { Work::Assumed.from({assume: "last_time"}, sequence).about(ids) }
    }.each { |what, work| puts format("%-45s %7.0f ms", what, median(&work)) }
  end

  # @return [Records::Sequence] of all of them, done
  def done_with(ids, letters, box)
    sequence = make_sequence(people: [], letters: letters, mailbox: box)
    sequence.update(audience: {"people" => ids})
    all_sent(start(sequence))
  end

  # Every letter to every member; by their numbers every other one was opened, and every sixth clicked.
  def all_sent(sequence)
    Records::Delivery.where(sequence_id: sequence.id).delete
    members = Records.db[:members].where(sequence_id: sequence.id)
    heard = Sequel.case({{Sequel.function(:mod, :id, 6) => 0} => 3, {Sequel.function(:mod, :id, 2) => 0} => 1}, 0)
    sequence.letter_steps.each do |step|
      values = {key: Sequel.function(:concat, "s#{step.id}-", :id), member_id: :id, sequence_id: :sequence_id, step_id: step.id,
                person_id: :person_id, letter_id: step.letter_id, heard: heard, mailbox_id: :mailbox_id, state: "sent",
                due_at: NOW, sent_at: NOW}
      Records.db[:deliveries].import(values.keys, members.select(*values.values))
    end
    told(sequence.id)
    members.update(state: "finished", step_id: nil)
    sequence.update(state: "ended")
  end

  def told(sequence_id)
    letters = Records.db[:deliveries].where(sequence_id: sequence_id)
    columns = %i[kind person_id occurred_at sequence_id step_id letter_id delivery_id member_id]
    {"sent" => letters, "opened" => letters.exclude(heard: 0), "clicked" => letters.where(heard: 3)}.each do |kind, of|
      Records.db[:events].import(columns, of.select(kind, :person_id, NOW, :sequence_id, :step_id, :letter_id, :id, :member_id))
    end
  end
end
