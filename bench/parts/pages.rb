# frozen_string_literal: true

require_relative "large_firm"

module Bench
  module_function

  SORTS = [
    nil,
    {"field" => "person.name"},
    {"field" => "person.city", "descending" => true},
    {"field" => "company.name"},
    {"field" => "person.owner"},
    {"field" => "person.birthday"},
    {"field" => "person.standing"}
  ].freeze

  # What the table, quick search, the sieve and a history take.
  def pages
    with_database do
      LargeFirm.fill
      lead = {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}
      SORTS.each do |sort|
        [0, 100_000, 199_900].each do |offset|
          say("everybody by #{sort&.values&.join(" ") || "last heard from"}, from #{offset}") do
            Records::PeopleTable.new(Records::Person.kept, sort: sort).page(offset: offset, limit: 60)
          end
        end
        say("leads by #{sort&.values&.join(" ") || "last heard from"}, from 0") do
          Records::PeopleTable.new(Records::Person.kept.where(sql.read(tree(lead))), sort: sort).page(offset: 0, limit: 60)
        end
      end
      ["lark1999", "ottoline house 12", "zzzz", "a", "01632 000 042"].each do |words|
        say("quick search for “#{words}”, first page") do
          Records::PeopleTable.new(Records::Person.kept.with_words(words)).page(offset: 0, limit: 60)
        end
        say("quick search for “#{words}”, count") { Records::Person.kept.with_words(words).count }
      end
      say("the sieve of everybody") { sieving({"condition" => {}}).account }
      say("the sieve of all leads") { sieving({"condition" => lead}).account }
      say("a history page of a person with 2,000 events") do
        Records::Cursor
          .page(Records::Event.where(person_id: 7).newest_first, time: :occurred_at, cursor: nil, limit: 50)
          .then { |events, _| Web::HistoryWords.new(events, Work::Moment.new(now: NOW)).entries }
      end
      rules = {"tag" => {"tag_id" => Records::Tag.order(:id).get(:id)}, "field" => {"field" => "person.standing"},
               "filter" => {"audience" => {"condition" => lead}}, "yearly" => {"field" => "person.birthday", "days" => -10}}
      rules.each do |kind, settings|
        rule = Records::JoinRule.new(kind: kind, settings: settings)
        say("whom a rule of joining by #{kind} would take in") { Work::JoinOutlook.new(rule, Work::Moment.new(now: NOW)).call }
      end
      if ENV["EXPORT"]
        say("a whole export as CSV, 200,000 people", runs: 1) do
          Work::ExportPeople.new(Records::Person.kept, format: "csv", moment: Work::Moment.new(now: NOW)).file.close!
        end
      end
    end
  end

  def sieving(audience)
    moment = Work::Moment.new(now: NOW, account: Records::Account.first)
    moment.sieving(moment.audience(audience))
  end

  def say(what, runs: RUNS, &work) = puts(format("%-70s %8.1f ms", what, median(runs, &work)))
end
