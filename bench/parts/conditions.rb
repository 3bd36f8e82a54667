# frozen_string_literal: true

require_relative "large_firm"

module Bench
  field = ->(key, is, value = nil) { {"field" => key, "is" => is, "value" => value}.compact }
  days = ->(amount) { {"amount" => amount, "unit" => "days"} }
  in_events = ->(kind, since) do
    "EXISTS (SELECT 1 FROM events e WHERE e.person_id = p.id AND e.kind = '#{kind}' AND e.by_machine = 0 AND e.occurred_at BETWEEN '" \
      "#{since}' AND '2026-05-12 08:00:00')"
  end
  ever = "1000-01-01"

  # Twelve questions, from plain to nested: as the product asks them, and as one would write them by hand.
  CONDITIONS = {
    "leads in York or Leeds" => [
      {"all" => [field.call("person.standing", "one_of", ["lead"]), field.call("person.city", "one_of", %w[York Leeds])]},
      "p.standing = 'lead' AND p.city_fold IN ('york', 'leeds')"
    ],
    "an address at a house ending in 77" => [
      field.call("person.email", "contains", "77.example"),
      "LOCATE('77.example', p.email_fold) > 0"
    ],
    "a last name that starts with lark12" => [field.call("person.last_name", "starts_with", "Lark12"), "p.last_name_fold LIKE 'lark12%'"],
    "clients fitted in the last 3 months" => [
      {
        "all" => [
          field.call("person.standing", "one_of", ["client"]),
          field.call("person.fitted_on", "in_last", {"amount" => 3, "unit" => "months"})
        ]
      },
      "p.standing = 'client' AND p.fitted_on > '2026-02-12' AND p.fitted_on <= '2026-05-12'"
    ],
    "birthday in the next 7 days" => [
      field.call("person.birthday", "yearly_in_next", 7),
      "MONTH(p.birthday) * 100 + DAYOFMONTH(p.birthday) BETWEEN 512 AND 518"
    ],
    "tagged press, but not on list 1" => [
      {"all" => [field.call("person.tags", "one_of", ["press"]), {"not" => field.call("person.lists", "one_of", [1])}]},
      "EXISTS (SELECT 1 FROM people_tags t JOIN tags ON tags.id = t.tag_id WHERE t.person_id = p.id AND tags.name_fold = 'press') " \
      "AND NOT EXISTS (SELECT 1 FROM list_people l WHERE l.person_id = p.id AND l.list_id = 1)"
    ],
    "restaurants" => [
      field.call("company.type", "one_of", ["restaurant"]),
      "p.company_id IN (SELECT id FROM companies WHERE type = 'restaurant')"
    ],
    "a proposal of more than £10,000" => [
      {"deals" => {"all" => [field.call("deal.stage", "one_of", ["proposal"]), field.call("deal.value", "more_than", 1_000_000)]}},
      "EXISTS (SELECT 1 FROM deals d WHERE d.person_id = p.id AND d.stage = 'proposal' AND d.value_pence > 1000000)"
    ],
    "opened in the last 30 days" => [
      {"activity" => "opened", "within" => days.call(30)},
      in_events.call("opened", "2026-04-12 08:00:00")
    ],
    "clicked that link in that letter at least twice" => [
      {"activity" => "clicked", "letter_id" => 1, "link" => "https://house.example/a", "at_least" => 2},
      "(SELECT COUNT(*) FROM events e WHERE e.person_id = p.id AND e.kind = 'clicked' AND e.by_machine = 0 AND e.letter_id = 1 " \
      "AND JSON_VALUE(e.data, '$.link') = 'https://house.example/a' AND e.occurred_at <= '2026-05-12 08:00:00') >= 2"
    ],
    "in sequence 1 with the status replied, and owned by me" => [
      {"all" => [{"membership" => "in", "sequence_id" => 1, "status" => ["replied"]}, field.call("person.owner", "one_of", ["me"])]},
      "EXISTS (SELECT 1 FROM members m WHERE m.person_id = p.id AND m.state = 'active' AND m.sequence_id = 1 " \
      "AND m.status = 'replied') AND p.owner_id = 1"
    ],
    "restaurants that had a letter, and opened or clicked but never replied, in 90 days" => [
      {
        "all" => [
          field.call("company.type", "one_of", ["restaurant"]),
          {"activity" => "had_letter", "within" => days.call(90)},
          {"any" => [{"activity" => "opened", "within" => days.call(90)}, {"activity" => "clicked", "within" => days.call(90)}]},
          {"not" => {"activity" => "replied"}}
        ]
      },
      "p.company_id IN (SELECT id FROM companies WHERE type = 'restaurant') " \
      "AND #{in_events.call("sent", "2026-02-11 08:00:00")} " \
      "AND (#{in_events.call("opened", "2026-02-11 08:00:00")} OR #{in_events.call("clicked", "2026-02-11 08:00:00")}) " \
      "AND NOT #{in_events.call("replied", ever)}"
    ]
  }.freeze

  # A millisecond more or less is told from chance by many of them.
  OFTEN = 25

  module_function

  def conditions
    with_database do
      LargeFirm.fill
      CONDITIONS.each do |name, (json, by_hand)|
        people = Records::Person.kept.where(sql.read(tree(json)))
        ours = -> { Records::Person.kept.where(sql.read(tree(json))).count }
        theirs = -> { Records.db["SELECT COUNT(*) FROM people p WHERE p.deleted_at IS NULL AND #{by_hand}"].single_value }
        raise Error, "#{name}: #{ours.call} and #{theirs.call} people" unless ours.call == theirs.call

        mine, hand =
          Array
            .new(OFTEN) { [Benchmark.realtime { ours.call }, Benchmark.realtime { theirs.call }] }
            .transpose
            .map { |all| all.sort[OFTEN / 2] * 1000 }
        puts format("%-84s %7d people  %7.1f ms, by hand %7.1f ms: %.2f", name, ours.call, mine, hand, mine / hand)
        puts plan(people) if ENV["PLANS"]
      end
    end
  end
end
