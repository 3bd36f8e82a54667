# frozen_string_literal: true

# The two readers of a condition must agree on every record: random trees over random people, with every operator of every
# type of field, the firm's own fields among them.
RSpec.describe "a condition in SQL and in memory", :own_fields do
  let(:g) { PropCheck::Generators }

  let(:random) { Random.new(RSpec.configuration.seed) }
  let(:today) { Date.new(2026, 5, 12) }
  let(:words) do
    ["York", "york ", "YÖRK", "Leeds", "", nil, "100% noise", "a_b", "林", "Straße", "STRASSE", "O'Hara", "back\\slash", "Ångström"]
  end
  let(:tags) { ["press", "Trade evening", "trade  EVENING", "ß"] }
  let(:days) do
    [
      nil,
      today,
      today - 1,
      today - 30,
      today + 1,
      today + 30,
      today << 2,
      today >> 2,
      Date.new(1990, 2, 29 - 1),
      Core::Fields::Yearless.parse("--0519"),
      Date.new(1988, 2, 29),
      Date.new(1975, 5, 12),
      Date.new(1975, 5, 19),
      Date.new(1981, 12, 31),
      Date.new(1981, 1, 1)
    ]
  end
  let(:phones) { [nil, "01632 960 101", "+44 (0)1632 960101", "0044 1632 960 115", "ask Bo"] }
  let(:numbers) { [nil, 0, 1, BigDecimal("2.5"), -3, 1000] }
  let(:links) { [nil, "https://ternandfallow.example/a", "https://ternandfallow.example/b"] }

  def pick(list) = list[random.rand(list.size)]

  before do
    make_own_fields
    owners = [make_account, make_account]
    lists = %w[One Two].map { |name| Records::List.create(name: name, created_at: now, updated_at: now) }
    companies =
      words
        .compact
        .reject(&:empty?)
        .map { |word| make_company(word, type: pick(["restaurant", "school", nil]), city: pick(words), website: pick(links)) }
    sequences = Array.new(2) { make_sequence(people: []) }
    box = make_mailbox
    45.times do
      names = {first_name: pick(words), last_name: pick(words)}
      person =
        make_person(
          **names,
          # A record needs something to be known by.
          known_as: names.values.any? ? nil : "Lark",
          city: pick(words),
          region: pick(words),
          country: pick(words),
          job_title: pick(words),
          phone: pick(phones),
          mobile: pick(phones),
          email: pick([nil, "ana@york.example", "Bo@York.example"]),
          standing: pick(%w[lead client partner]),
          consent: pick(%w[yes no unknown]),
          do_not_mail: pick([true, false]),
          address_failed: pick([true, false]),
          language: pick([nil, "en", "fr"]),
          owner_id: pick([nil, *owners.map(&:id)]),
          company_id: pick([nil, *companies.map(&:id)]),
          fitted_on: pick(days),
          birthday: pick(days)
        )
      own_values(person)
      tags.sample(random.rand(3), random: random).map { |tag| Records::Tag.named(tag) }.uniq.each { |tag| person.add_tag(tag) }
      lists.sample(random.rand(3), random: random).each { |list| person.add_list(list) }
      random.rand(5).times { happen(person) }
      random.rand(3).times { deal(person, owners) }
      sequences.sample(random.rand(3), random: random).each do |sequence|
        member = Records::Member.create(
          sequence_id: sequence.id,
          person_id: person.id,
          mailbox_id: box.id,
          state: pick(%w[active left finished]),
          step_id: pick([nil, *sequence.steps.map(&:id)]),
          base: now,
          joined_at: now,
          status: pick(%w[sent replied])
        )
        random.rand(3).times { come_by(member, pick(sequence.steps)) }
      end
    end
  end

  def own_values(person)
    values = {
      x_paint: pick(words),
      x_remarks: pick(words),
      x_height: pick(numbers),
      x_budget: pick([nil, 0, 12_050, 500_000]),
      x_measured: pick(days),
      x_keyholder: pick([nil, true, false]),
      x_ceiling: pick([nil, "oak", "felt"]),
      x_rooms: pick([nil, "|hall|", "|bar||hall|"]),
      x_plan: pick(links)
    }
    Records.db[:people].where(id: person.id).update(
      Records::FieldCatalogue
        .current
        .select { |field| field.custom? && field.folded? }
        .to_h { |field| [field.compared_column, Core::Fold.call(values[field.column])] }
        .merge(values)
    )
  end

  # What says that a step is behind somebody, of this membership or of none.
  def come_by(member, step)
    Records::Event.create(
      kind: pick(%w[sent step_done skipped lane_taken opened]),
      person_id: member.person_id,
      occurred_at: now,
      sequence_id: member.sequence_id,
      step_id: step.id,
      member_id: pick([member.id, member.id, nil]),
      data: pick([nil, {lane: 1}, {lane: 2}])
    )
  end

  def happen(person)
    Records::Event.create(
      kind: pick(%w[sent opened clicked replied bounced refused unsubscribed converted]),
      person_id: person.id,
      occurred_at: now - pick([0, 1, 86_400, 86_401, 7 * 86_400, 31 * 86_400, 90 * 86_400, -60]),
      by_machine: pick([true, false, false]),
      letter_id: pick([nil, 1, 2]),
      sequence_id: pick([nil, 1]),
      data: pick(links)&.then { |link| {link: link} }
    )
  end

  def deal(person, owners)
    Records::Deal.create(
      person_id: person.id,
      name: pick(words.compact.reject(&:empty?)),
      stage: pick(%w[measured proposal signed]),
      value_pence: pick([0, 12_050, 500_000]),
      owner_id: pick([nil, *owners.map(&:id)]),
      expected_on: pick(days),
      created_at: now
    )
  end

  def records = Records::WholeRecords.read(Records::Person.all)

  def one_of(values) = g.one_of(*values.map { |value| g.constant(value) })

  # Every operator of every field, with values that are there, nearly there, and not there.
  def field_test(subjects)
    fields = Records::FieldCatalogue.current.for(:condition).select { |field| subjects.include?(field.subject) }
    one_of(
      fields.flat_map { |field| Core::Conditions::Operators.for(field.type).map { |is, needs| [field, is, needs] } }
    ).bind { |(field, is, needs)| value(field, needs).map { |given| {"field" => field.key, "is" => is, "value" => given}.compact } }
  end

  def value(field, needs)
    case needs
    when :none then g.constant(nil)
    when :list then g.array(single(field), min: 1, max: 3)
    when :text then single(field)
    when :number then one_of(numbers.compact + [12_050])
    when :numbers then one_of([[0, 2], [1, 1], [-5, 12_050]])
    when :span then g.fixed_hash("amount" => one_of([1, 2, 30, 31]), "unit" => one_of(Core::Conditions::Span::UNITS))
    when :days then one_of([1, 7, 31, 200, 366])
    when :months then one_of([[5], [2, 12], [1, 5, 6]])
    when :date then one_of([-30, -1, 0, 1, 30].map { |away| (today + away).iso8601 })
    when :dates then one_of([[(today - 1).iso8601, (today + 1).iso8601], ["1970-01-01", "1995-01-01"]])
    end
  end

  def single(field)
    case field.type
    when :choice, :choices then one_of(field.choices.keys)
    when :reference then one_of(["me", *Records::Account.select_map(:id)])
    when :tags then one_of(tags)
    when :lists then one_of(Records::List.select_map(:id))
    when :text, :link, :long_text
      return one_of(phones.compact.select { |one| one.match?(/\d/) } + %w[0163 960]) if Core::Fields::Field::PHONES.include?(field.key)

      one_of(words.compact.reject { |word| word.strip.empty? } + %w[yo % _ ana https://tern a])
    else raise "no value for #{field.type}"
    end
  end

  def activity_test
    g
      .fixed_hash(
        activity: one_of(Core::Conditions::Operators::ACTIVITIES.keys),
        within:
          one_of([nil, {"amount" => 1, "unit" => "days"}, {"amount" => 1, "unit" => "weeks"}, {"amount" => 3, "unit" => "months"}]),
        at_least: g.choose(1..3),
        letter_id: one_of([nil, 1]),
        sequence_id: one_of([nil, nil, 1]),
        link: one_of([nil, nil, links.last])
      )
      .map { |given| given.compact.transform_keys(&:to_s) }
  end

  def membership_test
    g
      .fixed_hash(
        membership: one_of(%w[in was_in]),
        sequence_id: one_of([nil, *Records::Sequence.select_map(:id)]),
        status: one_of([nil, ["replied"], %w[sent replied]]),
        step: one_of([nil, 1, 3]),
        step_id: one_of([nil, nil, *Records::Step.select_map(:id)]),
        lane_id: one_of([nil, nil, 1, 2])
      )
      .map { |given| given.compact.transform_keys(&:to_s) }
  end

  def deals_test
    g.fixed_hash(deals: branches(1) { field_test(%w[deal]) }, at_least: g.choose(1..2)).map { |given| given.transform_keys(&:to_s) }
  end

  def branches(depth, &leaf)
    return leaf.call if depth.zero?

    inner = branches(depth - 1, &leaf)
    g.one_of(
      leaf.call,
      g.array(inner, max: 3).map { |parts| {"all" => parts} },
      g.array(inner, max: 3).map { |parts| {"any" => parts} },
      inner.map { |part| {"not" => part} }
    )
  end

  it "picks the same people" do
    me = Records::Account.min(:id)
    sql = Records::ConditionSql.new(now: now, today: today, me: me)
    memory = Core::Conditions::InMemory.new(now: now, today: today, me: me)
    everybody = records
    parser = Records::FieldCatalogue.parser
    fields = field_test(%w[person company])
    seen, asked = Set.new, Set.new
    PropCheck
      .forall(branches(3) { g.one_of(fields, fields, fields, activity_test, membership_test, deals_test) })
      .with_config(n_runs: 2_500) do |json|
        node = parser.parse!(json)
        picked = Records::Person.where(sql.read(node)).select_order_map(:id)
        expected = everybody.select { |_, record| memory.match?(node, record) }.map(&:first).sort
        seen << picked.size
        JSON.generate(json).scan(/"field":"([^"]+)","is":"([^"]+)"/) { |pair| asked << pair }
        raise "#{JSON.generate(json)} picks #{picked - expected} too many and misses #{expected - picked}" unless picked == expected
      end
    # The trees must tell people apart and ask about everything, or agreeing would mean nothing.
    expect(seen.size).to be > 15
    every =
      Records::FieldCatalogue
        .current
        .for(:condition)
        .flat_map { |field| Core::Conditions::Operators.for(field.type).keys.map { |is| [field.key, is] } }
    expect((every - asked.to_a).size).to be <= every.size / 10
  end
end
