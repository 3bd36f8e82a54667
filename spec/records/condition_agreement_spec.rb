# frozen_string_literal: true

# The two readers of a condition must agree on every record: random trees over random people.
RSpec.describe "a condition in SQL and in memory" do
  let(:g) { PropCheck::Generators }

  let(:random) { Random.new(RSpec.configuration.seed) }
  let(:today) { Date.new(2026, 5, 12) }
  let(:words) { ["York", "york ", "YÖRK", "Leeds", "", nil, "100% noise", "a_b", "林", "Straße", "STRASSE", "O'Hara", "back\\slash", "Ångström"] }
  let(:tags) { ["press", "Trade evening", "trade  EVENING", "ß"] }

  def pick(list) = list[random.rand(list.size)]

  before do
    owners = [make_account, make_account]
    companies = words.compact.reject(&:empty?).map { |word| make_company(word, type: pick(["restaurant", "school", nil]), city: pick(words)) }
    45.times do
      person = make_person(first_name: pick(words), last_name: pick(words), city: pick(words), country: pick(words), job_title: pick(words), email: pick([nil, "ana@york.example", "Bo@York.example"]),
        standing: pick(%w[lead client partner]), consent: pick(%w[yes no unknown]), do_not_mail: pick([true, false]), address_failed: pick([true, false]),
        owner_id: pick([nil, *owners.map(&:id)]), company_id: pick([nil, *companies.map(&:id)]), fitted_on: pick([nil, today, today - 1, today - 30, today + 1, today + 30]))
      tags.sample(random.rand(3), random: random).map { |tag| Records::Tag.named(tag) }.uniq.each { |tag| person.add_tag(tag) }
      random.rand(5).times { happen(person) }
    end
  end

  def happen(person)
    Records::Event.create(kind: pick(%w[sent opened clicked replied]), person_id: person.id, occurred_at: now - pick([0, 1, 86_400, 86_401, 7 * 86_400, 90 * 86_400, -60]),
      by_machine: pick([true, false, false]), letter_id: pick([nil, 1, 2]), sequence_id: pick([nil, 1]))
  end

  def records
    facts = Records::Facts.new(today: today)
    people = Records::Person.eager(:tags).all
    events = Records::Event.all.group_by(&:person_id)
    facts.for_people(people).map do |id, known|
      person = people.find { |one| one.id == id }
      happened = (events[id] || []).map { |event| {kind: event.kind, at: event.occurred_at, by_machine: event.by_machine, letter_id: event.letter_id, sequence_id: event.sequence_id} }
      [id, known.merge("person.tags" => person.tags.map(&:name), "events" => happened)]
    end
  end

  # Every operator of every field, with values that are there, nearly there, and not there.
  def field_test
    fields = Core::Fields::Standard.catalogue.for(:condition)
    g.one_of(*fields.flat_map { |field| Core::Conditions::Operators.for(field.type).map { |is, needs| g.constant([field, is, needs]) } }).bind do |(field, is, needs)|
      value(field, needs).map { |given| {"field" => field.key, "is" => is, "value" => given}.compact }
    end
  end

  def value(field, needs)
    given = words.compact.reject { |word| word.strip.empty? }
    one = case field.type
    when :choice then g.one_of(*field.choices.keys.map { |key| g.constant(key) })
    when :reference then g.one_of(g.constant("me"), *Records::Account.select_map(:id).map { |id| g.constant(id) })
    when :tags then g.one_of(*tags.map { |tag| g.constant(tag) })
    else g.one_of(*(given + %w[yo % _ ana]).map { |word| g.constant(word) })
    end
    case needs
    when :none then g.constant(nil)
    when :list then g.array(one, min: 1, max: 3)
    when :text then one
    when :days then g.one_of(*[1, 2, 30, 31, 365].map { |days| g.constant(days) })
    when :date then g.one_of(*[-30, -1, 0, 1, 30].map { |days| g.constant((today + days).iso8601) })
    end
  end

  def activity_test
    g.fixed_hash(activity: g.one_of(*Core::Conditions::Operators::ACTIVITIES.keys.map { |key| g.constant(key) }), days: g.one_of(g.constant(nil), g.constant(1), g.constant(7), g.constant(90)),
      least: g.choose(1..3), letter: g.one_of(g.constant(nil), g.constant(1))).map do |given|
      {"activity" => given[:activity], "within_days" => given[:days], "at_least" => given[:least], "letter_id" => given[:letter]}.compact
    end
  end

  def tree(depth)
    leaf = g.one_of(field_test, field_test, activity_test)
    return leaf if depth.zero?

    g.one_of(leaf, g.array(tree(depth - 1), max: 3).map { |parts| {"all" => parts} }, g.array(tree(depth - 1), max: 3).map { |parts| {"any" => parts} }, tree(depth - 1).map { |part| {"not" => part} })
  end

  it "picks the same people" do
    me = Records::Account.min(:id)
    sql = Records::ConditionSql.new(now: now, today: today, me: me)
    memory = Core::Conditions::InMemory.new(now: now, today: today, me: me)
    everybody = records
    parser = Core::Conditions::Parser.new
    seen = Set.new
    PropCheck.forall(tree(3)).with_config(n_runs: 400) do |json|
      node = parser.parse!(json)
      picked = Records::Person.where(sql.read(node)).select_order_map(:id)
      expected = everybody.select { |_, record| memory.match?(node, record) }.map(&:first).sort
      seen << picked.size
      raise "#{JSON.generate(json)} picks #{picked - expected} too many and misses #{expected - picked}" unless picked == expected
    end
    # The trees must tell people apart, or agreeing would mean nothing.
    expect(seen.size).to be > 10
  end
end
