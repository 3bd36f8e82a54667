# frozen_string_literal: true

# Gaps are looked for where they can be: the answer is the one that merging everybody's letter gives.
RSpec.describe "the gaps of a step" do
  let(:bodies) do
    ["Dear {{first name}},", "Dear {{first name|there}},", "In {{company}}, {{city}}", "Yours, {{sender name}} {{sender phone}}",
      "It is {{weekday}} in {{sequence}}", "About {{deal name}} of {{owner name}}", "{{weather}} in {{city|town}}"]
  end

  def pick(random, *some) = some[random.rand(some.size)]

  it "are those that merging every letter finds, whatever letters ask for and records lack" do
    random = Random.new(RSpec.configuration.seed)
    owner = make_account(name: "Ivo Lund")
    people = Array.new(30) do
      make_person(first_name: pick(random, "Ana", nil), city: pick(random, "York", nil, " "), owner_id: pick(random, owner.id, nil),
        company_id: pick(random, make_company.id, nil))
    end
    people.sample(8, random: random).each { |person| Work::ChangeDeal.create(person, {name: "Oak hall"}, moment: moment) }
    known = []
    20.times do
      letter = make_letter(body: bodies.sample(1 + random.rand(3), random: random).join(" "), about: pick(random, "person", "deal"))
      mailbox = make_mailbox(account_id: pick(random, owner.id, nil))
      sequence = make_sequence(people: people, letters: [letter], mailbox: mailbox)
      step = sequence.steps.first
      some = people.sample(3, random: random)
      some.each { |person| Work::WriteIntoLetter.new(step, person, moment).fill("person.city", "Hull") }
      outlook = Work::Outlook.new(sequence, moment)
      everybody = outlook.rows.map { |row| [Records::Person[row.person.id], row.mailbox, nil] }
      found = Work::MergedStep.new(step, moment).call(everybody).transform_values(&:gaps).reject { |_, gaps| gaps.empty? }
      expect(outlook.gaps(step)).to eq(found), letter.document(:body).summary
      counted = Work::OnPaper.new(sequence, sequence.plan, people.map(&:id), moment).gaps(step)
      known << counted.people
      expect(counted.people).to eq(found.size), letter.document(:body).summary if counted.people && !counted.at_most
    end
    expect(known.compact).not_to be_empty
  end
end
