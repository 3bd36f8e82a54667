# frozen_string_literal: true

# Whatever is asked in the form of the contract has an answer, and never by a fault of ours.
RSpec.describe "odd requests over the API" do
  # Signing in and out, what moves the clock of practice, and what waits for the wire.
  left_alone = %r{/api/(sessions|password|practice|colleagues)|/clock|/try-again}
  fork = {"kind" => "fork", "within" => {"amount" => 1, "unit" => "days"}, "lanes" => [{"test" => {"kind" => "opened"}, "steps" => []}]}

  let!(:maren) { sign_in }
  let!(:people) { Array.new(3) { make_person } }
  let!(:sequences) do
    drafts = Array.new(2) { make_sequence(people: people, letters: [make_letter, make_letter]) }
    Work::PlanSequence.change(drafts.last, {version: drafts.last.version, steps: PlanInput.of(drafts.last) + [fork]}, moment: moment)
    Work::KeepRule.make(drafts.first, {kind: "tag", settings: {"tag" => "x"}}, moment: moment)
    [drafts.first, start(drafts.last.refresh)].each { |one| Work::NoteOnPlan.write(one, "Why?", step_id: nil, moment: moment) }
  end

  # One of its steps was there and is not any more.
  before do
    change = Work::ChangePlan.new(sequences.last, moment(account: maren))
    change.propose({steps: PlanInput.of(sequences.last).values_at(0, 2)}, version: 0)
    Work::ChangePlan.new(sequences.last.refresh, moment(account: maren)).effect(version: 1)
  end

  def ids
    some = {"people" => people, "sequences" => sequences, "letters" => Records::Letter.all, "mailboxes" => Records::Mailbox.all,
            "steps" => Records::Step.all, "join-rules" => Records::JoinRule.all, "plan-notes" => Records::PlanNote.all}
    all = [Records::Lane, Records::Delivery, Records::Member, Records::Account, *some.each_value.map { |records| records.first.class }]
    some.transform_values { |records| records.map(&:id) }.merge(all: all.flat_map { |model| model.select_map(:id) }.uniq + [0])
  end

  it "say of a step that was taken out that it was" do
    gone = Records::Step.exclude(out_at: nil).get(:id)
    ["stack", "stack/#{people.first.id}", "stack/next-gap?after=0", "reader"].each do |what|
      expect(call_api(:get, "/api/steps/#{gone}/#{what}", status: 404)["error"]["message"]).to eq("This step was taken out of the plan.")
    end
  end

  # @return [String, nil] what is wrong with the answer
  def fault
    return "#{last_response.status} #{last_response.body[0, 300]}" if last_response.status >= 500

    assert_response_schema_confirm(last_response.status) if last_response.status < 300 && json?
    nil
  rescue Committee::InvalidResponse => e
    # Of a file the contract says no more than that it is one.
    e.message[0, 300] unless e.message.include?("response definition does not exist")
  end

  def json? = last_response.content_type.to_s.include?("json")

  # ODD=n for n of them.
  it "are answered as the contract says, refused or not found" do
    odd = OddRequests.new(Random.new(RSpec.configuration.seed), YAML.load_file(File.join(ROOT, "openapi.yaml")), ids)
    faults = Array.new(Integer(ENV.fetch("ODD", 250))).filter_map do
      verb, path, body = odd.one(but: left_alone)
      wrong = Records.db.transaction(savepoint: true, rollback: :always) do
        public_send(verb, path, body && JSON.generate(body))
        fault
      end
      "#{verb} #{path} #{JSON.generate(body)}: #{wrong}" if wrong
    end
    expect(faults).to eq([])
  end
end
