# frozen_string_literal: true

require "logger"
require "nokogiri"

RSpec.describe "looking at the letters of a step" do
  let(:person) { make_person(city: nil) }
  let(:others) { Array.new(5) { make_person } }
  let(:letter) { make_letter(body: "Dear {{first name}},\n\nHow is {{city}}?\n\nYours") }
  let(:sequence) { make_sequence(people: [person, *others], letters: [letter]) }
  let(:step) { sequence.steps.first }
  let(:stack) { Work::Stack.new(step, moment) }
  let(:stack_list) { Work::StackList.new(step, moment) }

  it "fills a gap for this letter only, and leaves the record alone" do
    Work::WriteIntoLetter.new(step, person, moment).fill("person.city", "Whitby")

    expect(stack.letter(person)).to include(gaps: [], filled: {"person.city" => "Whitby"}, text: a_string_including("How is Whitby?"))
    expect(person.refresh.city).to be_nil
    expect(stack_list.call[:with_gaps]).to eq(0)
    expect { Work::WriteIntoLetter.new(step, person, moment).fill("person.shoe", "1") }.to raise_error(Invalid)
  end

  it "shows the letter with its foot, as the desk does, and with a way out that leads nowhere" do
    at_the_desk = Nokogiri::HTML5.parse(Work::LookAtLetter.new(letter, person, moment).html)
    in_the_stack = Nokogiri::HTML5.parse(stack.html(person))

    expect([at_the_desk, in_the_stack].map { |page| page.css("a").last&.then { |link| [link.text, link["href"]] } }.uniq).to eq(
      [["Please don't write to me again", "#"]]
    )
    expect(in_the_stack.at_css("[data-gap]")["data-gap"]).to eq("person.city")
  end

  it "comes from the same mailbox at the desk as in the stack, and not from the owner of the person" do
    owner = make_account
    boxes = {owner: make_mailbox(account_id: owner.id, name: "Owner"), plan: make_mailbox(name: "Plan")}
    boxes.each { |name, box| box.update(signature: document("Signed by the #{name}")) }
    person.update(owner_id: owner.id, city: "York")
    both = -> { [Work::LookAtLetter.new(letter, person, moment).json, Work::Stack.new(step.refresh, moment).letter(person)] }
    {"mailbox" => :plan, "owner" => :owner, "starter" => :plan}.each do |kind, box|
      sequence.refresh.update(sender: {"kind" => kind, "mailbox_id" => boxes[:plan].id})
      expect(both.call.map { |one| one[:mailbox][:address] }).to eq([boxes[box].address] * 2)
      expect(both.call.map { |one| one[:text] }).to all(include("Signed by the #{box}"))
    end
    # Who is a member keeps the mailbox they know.
    start(sequence.refresh.update(sender: {"kind" => "owner", "mailbox_id" => boxes[:plan].id}))
    person.update(owner_id: nil)
    expect(both.call.map { |one| one[:mailbox][:address] }).to eq([boxes[:owner].address] * 2)
  end

  it "keeps a line where it was written for, and lists it when that place is gone" do
    Work::WriteIntoLetter.new(step, person, moment).line("P.S.", after: "How is [city]?")
    expect(stack.letter(person)).to include(line_after: "How is [city]?", line_lost: false, text: a_string_including("How is ?\n\nP.S."))

    letter.update(body: document("Dear {{first name}},\n\nAnother question"))
    changed = Work::Stack.new(Records::Step[step.id], moment)
    expect(Work::StackList.new(Records::Step[step.id], moment).call).to include(lost: 1, personal: 1)
    expect(changed.letter(person)).to include(line_lost: true, text: a_string_including("P.S."))
  end

  it "gives each of two versions to half, in the stack as in the post" do
    step.update(other: {"what" => "subject", "subject" => document("Another subject")})
    person.update(city: "York")
    planned = stack_list.call[:rows].to_h { |row| [row[:person_id], row[:version]] }
    subjects = [person, *others].to_h { |one| [one.id, stack.letter(one)[:subject].map { |run| run[:text] }.join] }
    start(sequence.refresh)

    expect(planned.values.tally).to eq("a" => 3, "b" => 3)
    expect(subjects).to eq(planned.transform_values { |version| (version == "b") ? "Another subject" : "A word about your room" })
    expect(Records::Delivery.select_hash(:person_id, :version)).to eq(planned)
  end

  it "does not start while the other subject is empty" do
    step.update(other: {"what" => "subject", "subject" => doc(para)})
    person.update(city: "York")

    expect(Work::ReadyCheck.new(sequence.refresh, moment).call[:remarks]).to include(
      include(code: "no_subject", words: "The other subject of “A word” is empty.")
    )
  end

  it "can compare a whole other letter, whose deliveries name it" do
    other = make_letter(name: "Other", subject: "Other", body: "Other words")
    other.update(
      body: doc(para("Other words"), shown_if({"field" => "person.city", "is" => "one_of", "value" => ["York"]}, [para("near")]))
    )
    step.update(other: {"what" => "letter", "letter_id" => other.id})
    person.update(city: "York")
    expect(stack_list.call[:rows].map { |row| [row[:version], row[:sides]] }.tally).to eq(["a", []] => 3, ["b", [0]] => 3)
    start(sequence.refresh)

    expect(Records::Delivery.group_and_count(:letter_id).as_hash(:letter_id, :count)).to eq(letter.id => 3, other.id => 3)
    expect(Work::LetterUse.running(other)).to eq([{id: sequence.id, name: sequence.name, had: 0, will: 3, held: false}])
  end

  it "names the conditions its letter asks, and who sees what" do
    condition = {"field" => "person.city", "is" => "one_of", "value" => ["York"]}
    letter.update(body: doc(shown_if(condition, [para("near")], [para("far")])))
    list = stack_list.call

    expect(list[:conditions]).to eq([{index: 0, words: "everyone who is in York", people: 5}])
    expect(list[:rows].map { |row| row[:sides] }).to eq([[], [0], [0], [0], [0], [0]])
  end

  it "leafs through thousands without asking the database for each" do
    Records.db[:people].multi_insert(
      Array.new(1500) do |n|
        Records::Person.with_folds(
          {
            first_name: "Ana",
            last_name: "L#{n}",
            email: "l#{n}@house.example",
            city: n.odd? ? "York" : nil,
            standing: "lead",
            consent: "yes",
            created_at: now,
            updated_at: now
          }
        )
      end
    )
    all = make_sequence(people: Records::Person.all, letters: [letter])
    queries = 0
    logger = Logger.new(IO::NULL).tap { |made| made.formatter = ->(*) { queries += 1 } }
    Records.db.loggers << logger
    rows = Work::StackList.new(all.steps.first, moment).call[:rows]
    Records.db.loggers.delete(logger)

    expect(rows.size).to eq(Work::StackList::ROWS)
    expect(queries).to be < 80
  end

  # What the database is asked of very many is what looking at each of them finds.
  def both_ways(**asked)
    seen = Work::StackList.new(Records::Step[step.id], moment).call(**asked)
    stub_const("NimbleLetter::Work::StackMarks::LOOKED_AT", 1)
    found = Work::StackList.new(Records::Step[step.id], moment).call(**asked)
    stub_const("NimbleLetter::Work::StackMarks::LOOKED_AT", 1000)
    expect(found).to eq(seen)
    seen
  end

  it "counts and shows the same whether all are looked at or the database is asked" do
    condition = {"field" => "person.city", "is" => "one_of", "value" => ["York"]}
    words = [para("Dear ", chip("person.first_name")), para("In ", chip("person.city"))]
    letter.update(body: doc(*words, shown_if(condition, [para("near")])))
    others.first(2).each { |one| one.update(city: nil) }
    Work::WriteIntoLetter.new(step, person, moment).fill("person.city", "Whitby")
    Work::WriteIntoLetter.new(step, others.last, moment).line("P.S.", after: "long gone")
    2.times do |started|
      expect(both_ways).to include(total: 6, with_gaps: 2, gaps_at_most: false, personal: 1, lost: 1, shown: 6)
      expect(both_ways(only: "gaps")).to include(shown: 2, rows: [include(name: others[0].name), include(name: others[1].name)])
      shown = %w[personal lost side-0 other-0 unanswered a side-7].to_h { |only| [only, both_ways(only: only)[:shown]] }
      expect(shown.values).to eq([1, 1, 3, 3, 0, 0, 0])
      next if started == 1

      others.first(2).each { |one| one.update(city: "Hull") }
      start(sequence.refresh)
      others.first(2).each { |one| one.update(city: nil) }
    end
  end

  it "is leafed through page by page, each letter once and at the time it will go" do
    whole = stack_list.call[:rows]
    stub_const("NimbleLetter::Work::StackList::ROWS", 4)
    pages = [0, 4, 8].map { |from| Work::StackList.new(step, moment).call(from: from) }
    expect(pages.map { |page| page[:rows].size }).to eq([4, 2, 0])
    expect(pages.flat_map { |page| page[:rows] }).to eq(whole)
    expect(whole.map { |row| row[:goes_at] }).to all(be_a(Time))
  end

  it "finds the next letter with a gap, round and round" do
    others[3].update(city: nil)
    stub_const("NimbleLetter::Work::StackList::ROWS", 1)
    expect([-1, 3, 4, 5].map { |after| Work::StackList.new(step, moment).next_gap(after) }).to eq([3, 5, 5, 3])
    [person, others[3]].each { |one| one.update(city: "York") }
    expect(Work::StackList.new(step, moment).next_gap(2)).to be_nil
  end

  it "counts those who come to a step of a lane, and no others" do
    condition = {"field" => "person.city", "is" => "one_of", "value" => ["York"]}
    inner = {"kind" => "letter", "letter_id" => make_letter.id, "amount" => 1}
    fork = {"kind" => "fork", "lanes" => [{"test" => {"condition" => condition}, "steps" => [inner]}]}
    Work::PlanSequence.change(sequence, {version: sequence.version, steps: [*PlanInput.of(sequence), fork]}, moment: moment)
    inside = sequence.refresh.letter_steps.last
    rows = Work::StackList.new(inside, moment).call[:rows]
    expect(rows.map { |row| row[:person_id] }).to eq(others.map(&:id))
  end
end
