# frozen_string_literal: true

# What a colleague keeps to themselves is not there for anybody else: neither to look at nor to use, whichever route is asked.
RSpec.describe "a filter that somebody keeps to themselves" do
  let(:maren) { colleague(name: "Maren Holt", email: "maren@copperladle.example") }
  let(:york) { {"field" => "person.city", "is" => "one_of", "value" => ["York"]} }
  let!(:person) { make_person(last_name: "Secretmatch", city: "York") }
  let!(:filter) { keep("Quiet plans", shared: false) }
  let!(:draft) { make_sequence(people: [], letters: [make_letter]) }
  let(:contract) { ContractExamples.new }

  # By route of the contract: how it is asked with an audience.
  let(:asked) do
    chosen = ->(audience) { {people: {audience: audience}} }
    of_rule = ->(audience) { {kind: "filter", settings: {audience: audience}} }
    {
      "POST /api/changes" => ->(audience) { {**chosen.call(audience), act: {kind: "tag", names: ["x"]}} },
      "POST /api/audience/sieve" => ->(audience) { {audience: audience} },
      "POST /api/audience/people" => ->(audience) { {audience: audience, part: "matching"} },
      "POST /api/people/export" => ->(audience) { {**chosen.call(audience), format: "csv"} },
      "POST /api/people/search" => ->(audience) { {audience: audience} },
      "POST /api/people/{id}/why" => ->(audience) { {audience: audience} },
      "POST /api/lists" => ->(audience) { {name: "Theirs", from: {audience: audience}} },
      "POST /api/sequences" => ->(audience) { {name: "Theirs", audience: audience} },
      "PATCH /api/sequences/{id}" => ->(audience) { {version: draft.refresh.version, audience: audience} },
      "POST /api/sequences/{id}/join" => ->(audience) { {audience: audience} },
      "POST /api/sequences/{id}/joining" => of_rule,
      "POST /api/sequences/{id}/joining/outlook" => of_rule,
      "POST /api/sequences/{id}/joining/outlook/people" => of_rule,
      "PATCH /api/join-rules/{id}" => ->(audience) { {version: Records::JoinRule[by_filter.id].version, settings: {audience: audience}} }
    }
  end
  let!(:by_filter) { Work::KeepRule.make(draft, {kind: "filter", settings: {"audience" => {"condition" => york}}}, moment: moment) }
  let!(:running) { start(make_sequence(people: [make_person(city: "Hull")], letters: [make_letter]), at: now) }

  def numbered(route)
    return running.id if route.end_with?("/join")

    {"people" => person, "sequences" => draft, "join-rules" => by_filter, "filters" => filter}.fetch(route[%r{/([a-z-]+)/\{id\}}, 1]).id
  end

  def keep(name, shared:, by: maren) =
    Work::KeepFilter.new(moment(account: by)).make(name: name, condition: york, shared: shared)

  def ask(route, body)
    verb, path = route.split
    public_send(verb.downcase, path.sub("{id}") { numbered(path) }, body && JSON.generate(body))
    [last_response.status, last_response.body]
  end

  it "cannot be used by its number, on any route that takes an audience" do
    speaking = contract.routes.select { |route| route.body && contract.speaks_of?(route.body, "Audience") }.map(&:to_s)
    # A file says no numbers of ours: its filters are named as left out.
    expect(speaking - ["POST /api/sequences/file"]).to match_array(asked.keys)
    sign_in
    asked.each do |route, body|
      [{filter_id: filter.id}, {filters: [filter.id]}, {condition: york, without_filters: [filter.id]}].each do |audience|
        status, said = ask(route, body.call(audience))
        expect([status, said[/Quiet plans|Secretmatch/]]).to eq([404, nil]), "#{route} #{audience}: #{status} #{said[0, 300]}"
        expect(answer["error"]["message"]).to eq("This filter is gone."), route
      end
    end
  end

  it "can be neither read, changed, measured nor taken away, and no list of anything names it" do
    tag = Records::Tag.named("felt")
    person.add_tag(tag)
    Work::KeepFilter.new(moment(account: maren)).change(filter, {condition: {"field" => "person.tags", "is" => "one_of",
                                                                             "value" => ["felt"]}}, version: 1)
    sign_in
    [["PATCH /api/filters/{id}", {version: 1, name: "Mine"}], ["DELETE /api/filters/{id}", nil],
      ["POST /api/filters/{id}/effect", {condition: york}]].each { |route, body| expect(ask(route, body).first).to eq(404), route }
    contract.routes.select { |route| route.verb == "GET" && !route.path.include?("{") }.each do |route|
      expect(ask(route.to_s, nil).last).not_to include("Quiet plans"), route.to_s
    end
    expect(call_api(:get, "/api/tags")["tags"].first["used_in"].map { |use| use["name"] }).to eq(["a private filter of Maren Holt"])
  end

  it "is its owner's to use, but not in a sequence, whose people everybody sees, unless it is shared" do
    sign_in(maren)
    own = {filter_id: filter.id}
    expect(call_api(:post, "/api/audience/sieve", {audience: own})["matching"]).to eq(1)
    problem = call_api(:post, "/api/sequences", {name: "Mine", audience: own}, status: 422)["error"]
    expect(problem).to include("code" => "filter_not_shared", "at" => "audience.filters")
    expect(problem["message"]).to eq("Colleagues do not see the filter “Quiet plans”, and everybody sees whom a sequence is for.")
    ["PATCH /api/sequences/{id}", "POST /api/sequences/{id}/joining", "PATCH /api/join-rules/{id}"].each do |route|
      [own, {condition: york, without_filters: [filter.id]}].each do |audience|
        expect(ask(route, asked.fetch(route).call(audience)).first).to eq(422), route
      end
    end

    call_api(:patch, "/api/filters/#{filter.id}", {version: 1, shared: true})
    call_api(:post, "/api/sequences", {name: "Mine", audience: own}, status: 201)
    expect(call_api(:patch, "/api/filters/#{filter.id}", {version: 2, shared: false}, status: 422)["error"]["code"]).to eq("in_use")
  end

  it "may have the name of one that nobody of its readers sees" do
    expect { keep("Quiet plans", shared: false, by: colleague) }.to change(Records::SavedFilter, :count).by(1)
    shared = keep("Quiet plans", shared: true, by: colleague)
    expect { keep("Quiet plans", shared: false, by: colleague) }.to raise_error(Sequel::ValidationFailed, /already a filter/)
    sign_in(maren)
    call_api(:patch, "/api/filters/#{filter.id}", {version: 1, shared: true}, status: 422)
    expect(call_api(:get, "/api/filters")["filters"].map { |one| one["id"] }).to eq([filter.id, shared.id])
  end
end
