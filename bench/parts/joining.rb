# frozen_string_literal: true

require_relative "large_firm"

module Bench
  module_function

  # A round of live rules among 200,000 people when ten of them have changed: a tag, and a filter that is true of a fifth of them.
  def joining
    with_database do
      LargeFirm.fill
      require_relative "../../spec/support/builders_alone"
      extend ::Builders

      Records::Firm.save(postal_address: "4 Felt Yard")
      Records::JoinRule.dataset.delete
      sequence = start(make_sequence(people: [Records::Person.first], letters: [make_letter], mailbox: Records::Mailbox.first))
      tag = Records::Tag.named("bench #{Time.now.to_i}")
      york = {"field" => "person.city", "is" => "one_of", "value" => ["York"]}
      by = Work::Moment.new(now: NOW)
      keep = ->(kind, settings) { Work::KeepRule.make(sequence, {kind: kind, settings: settings, live: true}, moment: by) }
      keep.call("tag", {tag_id: tag.id})
      switched = Benchmark.realtime { keep.call("filter", {audience: {"condition" => york}}) }
      ids = Records::Person.exclude(city: "York").where(consent: "yes").limit(200).select_map(:id).each_slice(10)
      Work::JoinByRules.round(by)
      before = Records::Member.where(sequence_id: sequence.id).count
      took = Array.new(RUNS) do
        some = ids.next
        Records::BulkInsert.call(:people_tags, some.first(5).map { |id| {person_id: id, tag_id: tag.id} })
        Records::Person.where(id: some.last(5)).update(city: "York", city_fold: "york")
        Benchmark.realtime { Work::JoinByRules.round(Work::Moment.new(now: NOW)) } * 1000
      end
      quiet = median { Work::JoinByRules.round(Work::Moment.new(now: NOW)) }
      joined = Records::Member.where(sequence_id: sequence.id).count - before
      puts format("ten changes among %d people: a round %.0f ms (the longest %.0f), %d joined in %d rounds; nothing new %.1f ms",
        Records::Person.count, took.sort[RUNS / 2], took.max, joined, RUNS, quiet)
      puts format("a filter switched on that is true of %d: %.1f s", Records.db[:join_matches].count, switched)
      Records::JoinRule.dataset.delete
      Work::RunSequence.call(sequence.refresh, "stop", moment: by)
    end
  end
end
