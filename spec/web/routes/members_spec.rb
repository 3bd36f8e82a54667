# frozen_string_literal: true

# The members of a sequence as a table, over the API.
RSpec.describe "members of a sequence, over the API" do
  let!(:maren) { sign_in }
  let(:mill) { make_company("The Old Mill") }
  let(:names) { [["Ana", "Lark"], ["Bo", "Ash"], ["Cy", "Élan"], ["Di", nil]] }
  let(:people) { names.map { |first, last| make_person(first_name: first, last_name: last, company_id: (mill.id if first == "Bo")) } }
  let(:opened) { {"kind" => "fork", "lanes" => [{"test" => {"condition" => york}, "steps" => []}, {"test" => nil, "steps" => []}]} }
  let(:york) { {"field" => "person.city", "is" => "one_of", "value" => ["York"]} }
  let!(:sequence) do
    draft = make_sequence(people: people)
    people.last.update(city: "Hull")
    first, second = PlanInput.of(draft)
    Work::PlanSequence.change(draft, {version: draft.version, steps: [first, opened, second]}, moment: moment)
    start(draft.refresh)
  end

  def table(**asked) = call_api(:get, "/api/sequences/#{sequence.id}/members?#{URI.encode_www_form(asked)}")

  def firsts(**asked) = table(**asked)["members"].map { |member| member["name"].split.first }

  def act(kind, *some)
    call_api(:post, "/api/changes", {act: {kind: kind, sequence_id: sequence.id}, people: {ids: some.map(&:id)}}, status: 201)
  end

  it "comes in any order, those without last" do
    expect(firsts(sort: "name")).to eq(%w[Bo Cy Ana Di])
    expect(firsts(sort: "name", descending: true)).to eq(%w[Ana Cy Bo Di])
    expect(firsts(sort: "company").first).to eq("Bo")
    expect(firsts(sort: "joined", descending: true)).to eq(%w[Di Cy Bo Ana])
    %w[status place].each { |sort| expect(firsts(sort: sort).size).to eq(4) }
  end

  it "comes by their next letter, whoever has none last, also those found by a word" do
    act("take_out", people[1])
    [{}, {descending: true}].each do |way|
      members = table(sort: "next", **way)["members"]
      times = members.map { |member| member["next_at"] }
      expect(times.compact.size).to eq(3)
      expect(times).to eq(times.compact.sort.then { |some| way.empty? ? some : some.reverse } + [nil])
      expect(members.last["name"]).to eq("Bo Ash")
    end
    expect(firsts(sort: "next", words: "bo")).to eq(["Bo"])
    expect(firsts(sort: "name", words: "a").first).to eq("Bo")
  end

  it "is searched by name, company and address, whatever the accents" do
    expect(firsts(words: "elan")).to eq(["Cy"])
    expect(firsts(words: "old bo")).to eq(["Bo"])
    expect(firsts(words: people.last.email)).to eq(["Di"])
    expect(table(words: "%")["total"]).to eq(0)
  end

  it "is narrowed by place, lane, state, status and what they wait for" do
    clerk = worker(transport: ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")))
    clerk.dispatch_due(Records::Delivery.max(:due_at))
    first, fork, second = sequence.refresh.steps
    expect([first, second].map { |step| table(step_id: step.id)["total"] }).to eq([0, 4])
    expect(fork.lanes.map { |lane| firsts(lane_id: lane.id).sort }).to eq([%w[Ana Bo Cy], ["Di"]])
    act("pause", people[0])
    act("take_out", people[1])
    expect([firsts(state: "paused"), firsts(state: "left"), firsts(state: "finished")]).to eq([["Ana"], ["Bo"], []])
    expect(table(waits_for: "nod")["total"]).to eq(0)
    expect(table(status: "written")["total"]).to eq(4)
    expect(call_api(:get, "/api/sequences/#{sequence.id}/members/people?lane_id=#{fork.lanes.first.id}&state=active")["ids"])
      .to match_array([people[0].id, people[2].id])
  end

  it "comes a page at a time, each member once" do
    stub_const("NimbleLetter::Work::MemberTable::PAGE", 3)
    pages = [0, 3, 6].map { |from| firsts(sort: "name", from: from) }
    expect(pages).to eq([%w[Bo Cy Ana], ["Di"], []])
  end

  it "gives many a status by hand, and says how many had another" do
    status = Work::MemberStatus.of(sequence).rungs.last.key
    path = "/api/sequences/#{sequence.id}/members/status"
    expect(call_api(:post, path, {people: people.first(3).map(&:id), status: status})).to eq("changed" => 3)
    expect(call_api(:post, path, {people: people.map(&:id), status: status})).to eq("changed" => 1)
    expect(Records::Event.where(kind: "status_moved").count).to eq(4)
    expect(table(status: status)["members"]).to all(include("status_by_hand" => true))
    call_api(:post, path, {people: people.map(&:id), status: "shoe"}, status: 422)
    expect(call_api(:post, path, {people: [make_person.id], status: status})).to eq("changed" => 0)
  end
end
