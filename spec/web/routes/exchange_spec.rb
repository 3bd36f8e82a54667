# frozen_string_literal: true

# A sequence goes out as one file, comes into another firm, is made its own there, and runs.
RSpec.describe "sequences as files" do
  let!(:maren) { sign_in }
  let(:picture) do
    image = Vips::Image.black(40, 20).copy(interpretation: :srgb)
    Work::TakePicture.new(moment).call(StringIO.new(image.pngsave_buffer), name: "Felt.png")
  end
  let(:inner) { Work::KeepPassage.new(moment).make(name: "Hours", documents: doc(said("We answer within the day."))) }
  let(:passage) do
    within = {"type" => "passage", "attrs" => {"passage_id" => inner.id}}
    shown = {"type" => "picture", "attrs" => {"picture_id" => picture.id, "alt" => [], "href" => [said("https://felt.example/look")]}}
    about = paragraph(said("Tern & Fallow quiet rooms."))
    Work::KeepPassage.new(moment).make(name: "About us", documents: {"" => blocks([about, within, shown])})
  end
  let(:list) { Records::List.create(name: "Open days", created_at: now, updated_at: now) }
  let(:first) { make_letter(name: "First", body: "Hello") }
  let(:sequence) { whole }

  def said(words, href: nil)
    {"type" => "text", "text" => words, "marks" => ([{"type" => "link", "attrs" => {"href" => href}}] if href)}.compact
  end

  def paragraph(*content) = {"type" => "paragraph", "content" => content}

  def blocks(all) = {"type" => "doc", "content" => all}

  def doc(*content) = {"" => blocks([paragraph(*content)])}

  # Everything that a plan can speak of.
  def whole
    Records::Firm.save(name: "Tern & Fallow")
    condition = {"all" => [{"field" => "person.owner", "is" => "one_of", "value" => [maren.id]},
      {"field" => "person.lists", "is" => "one_of", "value" => [list.id]}, {"activity" => "clicked", "letter_id" => first.id}]}
    conditional = {"type" => "conditional", "attrs" => {"condition" => condition},
                   "content" => ["For you.", "For all."].map { |words| {"type" => "side", "content" => [paragraph(said(words))]} }}
    body = blocks([paragraph(said("Tern & Fallow write. "), said("Read on", href: "https://felt.example/more")),
      {"type" => "passage", "attrs" => {"passage_id" => passage.id}}, conditional])
    second = make_letter(name: "Second")
    Work::WriteLetter.new(moment).change(second, {body: body, version: second.version})
    Work::TakeAttachment.new(second, moment).call(StringIO.new("%PDF-1.4 prices"), name: "prices.pdf")
    draft = make_sequence(letters: [], name: "Quiet: all of it")
    leave_if = {"field" => "person.standing", "is" => "one_of", "value" => ["client"]}
    Work::PlanSequence.change(draft, {version: draft.version, steps: steps(second), leave_if: leave_if},
      moment: moment)
    Work::KeepRule.make(draft, {kind: "tag", settings: {"tag" => "price list"}, live: true}, moment: moment)
    Work::KeepRule.make(draft, {kind: "filter", settings: {"audience" => {"lists" => [list.id]}}, live: true}, moment: moment)
    Work::NoteOnPlan.write(draft, "Ask Idris first.", step_id: nil, moment: moment)
    draft.refresh
  end

  def steps(second)
    [{"kind" => "letter", "id" => -1, "letter_id" => first.id, "amount" => 0},
      {"kind" => "fork", "within" => {"amount" => 2, "unit" => "days"}, "lanes" => [
        {"test" => {"kind" => "clicked", "step_id" => -1, "link" => "https://felt.example/more"}, "steps" => [
          {"kind" => "change", "what" => "list", "to" => {"list_id" => list.id}, "amount" => 0, "unit" => "days"},
          {"kind" => "change", "what" => "stage", "to" => {"stage" => "proposal"}, "amount" => 0, "unit" => "days"}
        ]},
        {"test" => nil, "steps" => [{"kind" => "task", "words" => "Ring", "of" => maren.id, "amount" => 1}]}
      ]},
      {"kind" => "letter", "letter_id" => second.id, "amount" => 3}]
  end

  def out(of = sequence) = JSON.parse(call_api(:get, "/api/sequences/#{of.id}/file").then { last_response.body })

  def bring(file, answers = nil, status: answers ? 201 : 200) =
    call_api(:post, "/api/sequences/file", {file: file, answers: answers}.compact, status: status)

  # Another firm's database: nothing that the file speaks of is there any more.
  def empty_firm
    draft_out = out
    sequence.steps_dataset.update(letter_id: nil)
    Records::Firm.save(name: "Pebble & Sons")
    %i[join_rules plan_notes].each { |table| Records.db[table].delete }
    Records.db[:list_people].delete
    Records.db[:lists].delete
    Records.db[:pictures].delete
    Records.db[:passage_versions].delete
    Records.db[:passages].delete
    draft_out
  end

  it "carry letters with passages, pictures and files, and name what they speak of" do
    file = out
    expect(file).to include("format" => "nimble-letter-sequence/1", "name" => "Quiet: all of it", "firm" => "Tern & Fallow")
    expect(file["letters"].map { |one| one["letter"]["name"] }).to contain_exactly("First", "Second")
    files = file["letters"].flat_map { |one| one["attachments"] || [] }
    expect([file["passages"].size, file["pictures"].size, files.size]).to eq([2, 1, 1])
    expect(file["speaks_of"]).to include("lists" => [{"id" => list.id, "name" => "Open days"}],
      "colleagues" => [{"id" => maren.id, "name" => maren.name}], "tags" => [a_hash_including("name" => "price list")])
    expect(last_response.headers["content-disposition"]).to include("Quiet  all of it.json")
    expect(JSON.generate(file)).not_to include("people")
  end

  it "come back as they went, where everything is there already" do
    file = out
    asks = bring(file)
    expect(asks["wanted"].map { |one| one.values_at("kind", "here") }).to include(["lists", list.id], ["colleagues", maren.id])
    made = bring(file, {name: "Another"})
    again = out(Records::Sequence[made["id"]])
    plain = ->(json) { JSON.generate(json).gsub(/"(id|step_id|letter_id)":-?\d+/, '"\1":0') }
    %w[steps leave_if leave_on rules notes pictures passages].each do |part|
      expect(plain.call(again[part])).to eq(plain.call(file[part])), part
    end
    expect(Records::Picture.count).to eq(1)
    expect(Records::Passage.count).to eq(2)
  end

  it "ask one after the other what stands for what in an empty firm, and run there" do
    file = empty_firm
    asks = bring(file)
    links = %w[https://felt.example/more https://felt.example/look]
    expect(asks).to include("firm" => "Tern & Fallow", "links" => match_array(links))
    expect(asks["wanted"].find { |one| one["kind"] == "lists" }).to include("words" => "Open days", "here" => nil, "open" => false)
    problem = bring(file, {}, status: 422)
    expect(problem["error"]).to include("code" => "unanswered", "at" => "answers.lists.#{list.id}")
    mine = Records::List.create(name: "Visitors", created_at: now, updated_at: now)
    answers = {name: "Ours", firm: "Pebble & Sons", links: {links.first => "https://pebble.example/more"},
               lists: {list.id => mine.id}}
    made = Records::Sequence[bring(file, answers)["id"]]
    words = out(made).to_json
    expect(words).to include("Pebble & Sons write.", "https://pebble.example/more", "https://felt.example/look")
    expect(words).not_to match(%r{Tern & Fallow|felt\.example/more|Open days})
    expect(Records::JoinRule.where(sequence_id: made.id).select_order_map(:kind)).to eq(%w[filter tag])
    runs(made)
  end

  # Whoever gets the tag joins, and gets the letter.
  def runs(sequence)
    box = make_mailbox
    Records::Firm.save(postal_address: "4 Felt Yard")
    ready = make_person(consent: "yes")
    Work::PlanSequence.change(sequence, {version: sequence.version, sender: {"kind" => "mailbox", "mailbox_id" => box.id}}, moment: moment)
    seen = call_api(:get, "/api/sequences/#{sequence.id}/ready")
    expect(seen["remarks"].select { |remark| remark["blocking"] }).to eq([])
    call_api(:post, "/api/sequences/#{sequence.id}/start", {version: sequence.refresh.version, letters: seen["letters"]})
    Records.db[:people_tags].insert(person_id: ready.id, tag_id: Records::Tag.named("price list").id)
    Work::JoinByRules.round(moment)
    told = ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))
    all = worker(transport: told)
    at = now
    all.dispatch_due(at) while told.delivered.empty? && (at = all.next_due(after: at))
    expect(told.delivered.map { |one| one[:to].to_s }.join).to include(ready.email)
  end

  it "refuse what is no sequence, what is broken, and what asks where somebody stands" do
    bring({"format" => "else/1", "name" => "x", "steps" => []}, status: 422)
    call_api(:post, "/api/sequences/file", {file: {"format" => "nimble-letter-sequence/1", "name" => "x", "steps" => "none"}}, status: 400)
    file = out
    file["pictures"].first["data"] = "%%%"
    file["pictures"].first["id"] = 9
    broken = JSON.parse(JSON.generate(file).gsub("\"picture_id\":#{picture.id}", "\"picture_id\":9"))
    bring(broken, {}, status: 422)
    bring(file.merge("letters" => []), {}, status: 422)
    nowhere = 99_999
    [{"people" => [nowhere]}, {"without" => [nowhere]}, {"filter_id" => nowhere}, {"filters" => [nowhere]},
      {"lists" => [nowhere]}].each do |audience|
      rules = [{"kind" => "filter", "settings" => {"audience" => audience}}]
      expect(bring(out.merge("rules" => rules), {}, status: 422)["error"]["code"]).to eq("not_said"), audience.to_s
    end
    standing = {"membership" => "in", "sequence_id" => sequence.id, "step_id" => sequence.steps.first.id}
    sequence.update(leave_if: standing)
    expect(call_api(:get, "/api/sequences/#{sequence.id}/file", status: 422)["error"]).to include("code" => "cannot_go_along")
    expect(Records::Sequence.count).to eq(1)
  end

  it "are copied with their plan, letters, rules and notes, and without anybody" do
    Records::JoinRule.create(sequence_id: sequence.id, kind: "list", settings: {"list_id" => 99_999}, hears: "list", created_at: now,
      updated_at: now)
    copy = call_api(:post, "/api/sequences/#{sequence.id}/copy", status: 201)
    expect(copy).to include("name" => "Quiet: all of it, copy", "state" => "draft", "leave_on" => sequence.leave_on)
    plain = ->(steps) { JSON.generate(steps).gsub(/"(id|step_id)":-?\d+/, '"\1":0') }
    expect(plain.call(PlanInput.of(Records::Sequence[copy["id"]]))).to eq(plain.call(PlanInput.of(sequence)))
    words = call_api(:get, "/api/sequences/#{copy["id"]}/joining")["rules"].map { |rule| rule["words"] }
    expect(words.last).to eq("whoever is put on a list that is gone")
    expect([words.size, Records::PlanNote.where(sequence_id: copy["id"]).count]).to eq([3, 1])
    expect(Records::Member.where(sequence_id: copy["id"]).count).to eq(0)
  end

  it "are copied with an audience whose filter is gone, and say so as the other does" do
    filter = call_api(:post, "/api/filters", {name: "York", condition: {field: "person.city", is: "one_of", value: ["York"]}}, status: 201)
    sequence.update(audience: {"filter_id" => filter["id"]})
    # One that is used is not taken away; of old ones it is not known.
    Records::SavedFilter.where(id: filter["id"]).delete
    copy = call_api(:post, "/api/sequences/#{sequence.id}/copy", status: 201)
    expect(Records::Sequence[copy["id"]].audience).to eq("filter_id" => filter["id"])
    told = [sequence.id, copy["id"]].map { |id| call_api(:get, "/api/sequences/#{id}") }
    expect(told.map { |one| one["audience_words"] }).to eq(["a filter that is gone"] * 2)
  end
end
