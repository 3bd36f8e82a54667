# frozen_string_literal: true

# What speaks of a tag, a list, a filter or a field: in filters, audiences, rules, steps, lanes, letters and proposals alike.
RSpec.describe Work::WhereUsed do
  tagged = {"field" => "person.tags", "is" => "one_of", "value" => ["press"]}

  let(:maren) { make_account }
  let!(:tag) { Records::Tag.named("press") }
  let!(:person) { make_person.tap { |one| one.add_tag(tag) } }
  let!(:other) { make_person }
  let!(:list) { Work::KeepList.make("Guests", Records::Person.where(id: other.id), moment: moment) }
  let(:text) { doc(shown_if(tagged, [para("For the press.")], [para("For all.")])) }
  let(:letter) { Work::WriteLetter.new(moment).make(name: "A word", subject: doc(para("A word")), body: text) }
  let(:marked) { {"kind" => "change", "what" => "tag", "to" => {"names" => ["press"]}, "amount" => 0} }
  let(:put) { {"kind" => "change", "what" => "list", "to" => {"list_id" => list.id}, "amount" => 0} }
  let(:fork) do
    lanes = [{"test" => {"condition" => tagged}, "steps" => [marked.merge("what" => "untag")]}, {"test" => nil, "steps" => [marked]}]
    {"kind" => "fork", "lanes" => lanes}
  end
  let(:first) { {"kind" => "letter", "letter_id" => letter.id, "amount" => 0, "only_for" => {"any" => [tagged, {"not" => tagged}]}} }
  let(:steps) { [first, fork, put] }
  let!(:sequence) do
    draft = make_sequence(people: [person, other], letters: [])
    nobody = {"all" => [tagged, {"not" => tagged}]}
    Work::PlanSequence.change(draft, {version: draft.version, steps: steps, leave_if: nobody}, moment: moment)
    start(draft.refresh)
  end

  def change = Work::ChangePlan.new(sequence.refresh, moment(account: maren))

  def propose(steps) = change.propose({steps: steps}, version: sequence.refresh.proposal_version)

  # Whatever is kept as JSON, but for what happened.
  def kept
    tables = Records.db.tables - %i[events sequence_events change_sets change_entries incoming letter_versions passage_versions]
    columns = tables.flat_map do |table|
      Records.db.schema(table).filter_map { |name, about| [table, name] if about[:db_type].include?("text") }
    end
    columns.flat_map { |table, name| Records.db[table].exclude(name => nil).select_map(name).map { |text| [table, name, text] } }
  end

  def speaking_of(name) = kept.select { |_, _, text| text.include?(JSON.generate(name)) }.map { |table, name, _| [table, name] }.uniq

  it "names a running sequence by its steps, lanes, leaving and letters, and what is proposed for it" do
    expect(described_class.new.tag(tag).map { |use| use.values_at(:kind, :name) })
      .to match_array([["sequence", sequence.name], ["letter", "A word"]])
    expect(described_class.new.list(list).map { |use| use.values_at(:kind, :id) }).to eq([["sequence", sequence.id]])
    another = Work::KeepList.make("Others", Records::Person.where(id: other.id), moment: moment)
    propose(PlanInput.of(sequence) + [put.merge("to" => {"list_id" => another.id})])
    expect(described_class.new.list(another).map { |use| use[:id] }).to eq([sequence.id])
  end

  it "holds a stage, a status and an outcome that something speaks of, and lets them go with it" do
    admin = moment(account: maren)
    condition = {"any" => [{"deals" => {"field" => "deal.stage", "is" => "one_of", "value" => ["measured"]}},
      {"membership" => "in", "sequence_id" => sequence.id, "status" => ["met"]}]}
    filter = Records::SavedFilter.create(name: "Far on", condition: condition, created_at: now, updated_at: now)
    task = {"kind" => "task", "words" => "Ring them", "outcomes" => ["spoke"], "amount" => 0}
    propose(PlanInput.of(sequence) + [task])
    stages, outcomes = Records::FieldCatalogue.deal_stages, Work::OwnWords.of("outcomes")
    set = Work::KeepStatusSet.make("Visits", [*Records::StatusSet.standard.statuses, {"key" => nil, "words" => "Met"}], moment: admin)
    put = [
      -> { Work::DealStages.put(stages.reject { |one| one["key"] == "measured" }, moment: admin) },
      -> { Work::OwnWords.put("outcomes", outcomes.reject { |one| one["key"] == "spoke" }, moment: admin) },
      -> { Work::KeepStatusSet.change(set.refresh, name: nil, statuses: set.statuses[0..-2], version: set.version, moment: admin) }
    ]
    expect(set.statuses.last["key"]).to eq("met")
    put.each { |change| expect { change.call }.to raise_error(Invalid) { |error| expect(error.code).to eq(:in_use) } }
    filter.delete
    change.discard(version: sequence.refresh.proposal_version)
    put.each(&:call)
  end

  it "says nothing of what has ended, or of steps that were taken out" do
    propose(PlanInput.of(sequence).first(2))
    change.effect(version: sequence.refresh.proposal_version)
    expect(described_class.new.list(list)).to eq([])
    Records::Sequence.where(id: sequence.id).update(state: "ended")
    expect(described_class.new.tag(tag).map { |use| use[:kind] }).to eq(["letter"])
  end

  it "lets a tag be renamed wherever it is spoken of, and everything means the same" do
    propose(PlanInput.of(sequence) + [marked])
    before = sequence.refresh.version
    Work::RenameTag.call(tag, "papers")
    expect(speaking_of("press")).to eq([])
    expect(sequence.refresh.version).to be > before
    expect(speaking_of("papers")).to include(%i[steps settings], %i[lanes test], %i[sequences leave_if], %i[sequences proposal],
      %i[plans tree], %i[letter_texts content], %i[letters body])
    clerk = worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")))
    (1..4).each { |days| clerk.dispatch_due(now + days * 86_400) }
    expect([person, other].map { |one| one.refresh.tags.map(&:name) }).to eq([[], ["papers"]])
    expect(Records::Tag.where(name: "press").count).to eq(0)
    expect(change.words.letters).to eq([])
  end

  it "lets nobody propose the old name, who had the plan open when its tag got another" do
    old, version = PlanInput.of(sequence), sequence.refresh.proposal_version
    Work::RenameTag.call(tag, "papers")
    expect { change.propose({steps: old}, version: version) }.to raise_error(Conflict)
  end

  it "lets two tags become one wherever both are spoken of" do
    Records::Tag.named("papers")
    propose(PlanInput.of(sequence) + [marked.merge("to" => {"names" => %w[press papers]})])
    Work::RenameTag.call(tag, "papers", merge: true)
    expect(speaking_of("press")).to eq([])
    expect(sequence.refresh.proposal["steps"].last["to"]).to eq("names" => ["papers"])
  end
end
