# frozen_string_literal: true

RSpec.describe "the API" do
  let!(:maren) { sign_in }
  let(:person) { make_person(owner_id: maren.id, company_id: make_company.id) }

  def problem = answer["error"].values_at("code", "at")

  describe "people" do
    it "adds, shows, changes and finds one" do
      made =
        call_api(
          :post,
          "/api/people",
          {
            values: {
              "person.first_name" => "Zoë",
              "person.last_name" => "Lark",
              "person.email" => "zoe@lark.example",
              "person.company" => "New House",
              "person.tags" => ["press"]
            }
          },
          status: 201
        )
      expect(made).to include("name" => "Zoë Lark", "company" => "New House", "tags" => ["press"], "version" => 1)

      changed =
        call_api(:patch, "/api/people/#{made["id"]}", {version: 1, values: {"person.city" => "Hull", "person.standing" => "client"}})
      expect(changed).to include("city" => "Hull", "standing" => "client", "version" => 2)
      expect(call_api(:post, "/api/people/search", {words: "zoe"})["people"].map { |row| row["id"] }).to eq([made["id"]])

      words = call_api(:get, "/api/people/#{made["id"]}/history")["entries"].map { |entry| entry["words"] }
      expect(words).to match_array(["Standing: lead → client", "City: nothing → Hull", "Tagged press", "Record made"])
    end

    it "tells the second of two who change one record, and keeps the first's words" do
      call_api(:patch, "/api/people/#{person.id}", {version: 1, values: {"person.city" => "Hull"}})
      call_api(:patch, "/api/people/#{person.id}", {version: 1, values: {"person.city" => "Leeds"}}, status: 409)

      expect(problem).to eq(["changed_meanwhile", nil])
      expect(person.refresh.city).to eq("Hull")
    end

    it "says what was wrong, where, and what to do" do
      call_api(:post, "/api/people", {values: {"person.email" => "no address"}}, status: 422)
      expect(problem).to eq(["invalid", "email"])
      call_api(:post, "/api/people/search", {limit: "many"}, status: 400)
      expect(problem).to eq(["bad_request", "limit"])
      call_api(:post, "/api/people/search", {condition: {field: "person.shoe"}}, status: 422)
      expect(problem).to eq(["unknown_field", "condition.field"])
      call_api(:get, "/api/people/0", status: 404)
      call_api(:post, "/api/people/search", {sort: {field: "person.tags"}}, status: 422)
      expect(problem).to eq(["invalid", "sort.field"])
    end

    it "keeps a note" do
      call_api(:post, "/api/people/#{person.id}/notes", {text: "Rang, out"}, status: 201)

      expect(call_api(:get, "/api/people/#{person.id}/history")["entries"].first).to include(
        "words" => "Note",
        "detail" => "Rang, out",
        "by" => maren.name
      )
    end

    it "takes quotes and operators in a search box for words" do
      person
      ["'; DROP TABLE people; --", "%", "_", "\\", "(.*)"].each do |words|
        expect(call_api(:post, "/api/people/search", {words: words})["total"]).to eq(0), words
      end
    end
  end

  describe "letters" do
    it "saves what is typed and names a field that does not exist" do
      letter = call_api(:post, "/api/letters", {name: "A word"}, status: 201)
      body = {type: "doc", content: [{type: "paragraph", content: [{type: "text", text: "Dear {{first name|you}}"}]}]}
      saved = call_api(:patch, "/api/letters/#{letter["id"]}", {version: 1, body: body})
      expect(saved["body"]["content"][0]["content"][1]).to eq(
        "type" => "mergeField",
        "attrs" => {
          "field" => "person.first_name",
          "fallback" => "you",
          "form" => nil
        }
      )

      body[:content][0][:content][0][:text] = "Dear {{frist name}}"
      expect(
        call_api(:patch, "/api/letters/#{letter["id"]}", {version: 2, body: body})["body"]["content"][0]["content"][0]["text"]
      ).to eq("Dear {{frist name}}")
      expect(call_api(:get, "/api/letters/#{letter["id"]}/checks")["advice"]).to include(
        include("code" => "unknown_field", "blocking" => true, "words" => "There is no field “frist name”. Did you mean “first name”?")
      )
    end

    it "shows a letter as one person gets it, and where it is used" do
      make_mailbox(account_id: maren.id)
      sequence = start(make_sequence(people: [person]))
      letter = sequence.steps.first.letter
      preview = call_api(:get, "/api/letters/#{letter.id}/preview?person_id=#{person.id}")

      expect(preview["text"]).to start_with("Dear Ana,")
      expect(call_api(:get, "/api/letters/#{letter.id}")["running_in"]).to eq(
        [{"id" => sequence.id, "name" => sequence.name, "had" => 0, "will" => 1, "held" => false}]
      )
      expect(call_api(:get, "/api/letters")["letters"].map { |row| row["name"] }).to include("A word")
    end
  end

  describe "filters and the sieve" do
    let(:condition) { {field: "person.city", is: "one_of", value: ["York"]} }

    it "saves a condition, says it, counts it, and opens its people" do
      person
      filter = call_api(:post, "/api/filters", {name: "In York", condition: condition}, status: 201)
      expect(filter["sentence"]).to eq("everyone who is in York")
      call_api(:post, "/api/filters", {name: "In York", condition: condition}, status: 422)
      expect(problem).to eq(["invalid", "name"])

      sieve = call_api(:post, "/api/audience/sieve", {audience: {filter_id: filter["id"]}})
      people = call_api(:post, "/api/audience/people", {audience: {filter_id: filter["id"]}, part: "would_get_it"})
      expect([sieve["matching"], sieve["would_get_it"], people["total"]]).to eq([1, 1, 1])
      call_api(:post, "/api/audience/people", {audience: {condition: condition}, part: "nowhere"}, status: 422)
    end

    it "tells two who change one filter" do
      filter = call_api(:post, "/api/filters", {name: "In York", condition: condition}, status: 201)
      call_api(:patch, "/api/filters/#{filter["id"]}", {version: 1, name: "Yorkers"})
      call_api(:patch, "/api/filters/#{filter["id"]}", {version: 1, name: "Others"}, status: 409)
      expect(call_api(:get, "/api/filters")["filters"].map { |one| one["name"] }).to eq(["Yorkers"])
    end
  end

  describe "a sequence from draft to results" do
    it "is planned, started with the numbers read back, and counted" do
      Records::Firm.save(postal_address: "4 Felt Yard, York")
      make_mailbox(account_id: maren.id)
      letter = make_letter
      draft = call_api(:post, "/api/sequences", {name: "To York", audience: {people: [person.id]}}, status: 201)
      step = {letter_id: letter.id, amount: 0, unit: "working_days", from_minute: 540, to_minute: 690, zone: "theirs"}
      # Another name stops nobody who lays it out meanwhile.
      renamed = call_api(:patch, "/api/sequences/#{draft["id"]}", {version: 1, name: " Renamed "})
      expect(renamed).to include("name" => "Renamed", "version" => 1)
      call_api(:patch, "/api/sequences/#{draft["id"]}", {version: 1, steps: [step.merge(from_minute: 600, to_minute: 540)]}, status: 422)
      planned = call_api(:patch, "/api/sequences/#{draft["id"]}", {version: 1, steps: [step, step.merge(amount: 3)]})
      expect(planned["steps"].map { |one| [one["date"], one["counts"]["planned"]] }).to eq([["2026-05-12", 1], ["2026-05-15", 1]])

      ready = call_api(:get, "/api/sequences/#{draft["id"]}/ready")
      call_api(:post, "/api/sequences/#{draft["id"]}/start", {version: planned["version"], letters: 99}, status: 409)
      running = call_api(:post, "/api/sequences/#{draft["id"]}/start", {version: planned["version"], letters: ready["letters"]})
      expect(running["state"]).to eq("running")

      results = call_api(:get, "/api/sequences/#{draft["id"]}/results")
      expect(results["total"].find { |figure| figure["name"] == "planned" }["count"]).to eq(ready["letters"])
      expect(call_api(:get, "/api/sequences/#{draft["id"]}/results/people?figure=due")["people"].map { |row| row["id"] }).to eq(
        [person.id]
      )
      expect(call_api(:get, "/api/results")["sequences"].size).to eq(1)
      expect(call_api(:get, "/api/post")["next"]).to include("letters" => 1)

      member = call_api(:get, "/api/sequences/#{draft["id"]}/members")["members"].first
      expect(call_api(:patch, "/api/members/#{member["id"]}", {status: "answered"})).to include(
        "status_words" => "has answered",
        "status_by_hand" => true
      )
      take_out = {kind: "take_out", sequence_id: draft["id"]}
      call_api(:post, "/api/changes", {act: take_out, people: {ids: [person.id]}}, status: 201)
      expect(call_api(:get, "/api/sequences")["sequences"].first).to include("state" => "ended", "planned" => 2)
      call_api(:post, "/api/sequences/#{draft["id"]}/move", {move: "pause"}, status: 422)
    end

    it "shows the stack and takes a line into one letter" do
      sequence = make_sequence(people: [person])
      step = sequence.steps.first
      expect(call_api(:get, "/api/steps/#{step.id}/stack")).to include("total" => 1, "with_gaps" => 0)
      letter = call_api(:put, "/api/steps/#{step.id}/stack/#{person.id}", {line: "Good to meet you."})
      expect(letter["text"]).to include("Good to meet you.")
      get "/api/steps/#{step.id}/stack/#{person.id}/shown"
      expect(last_response.body).to include('<span class="nl-personal">Good to meet you.</span>')
      expect(last_response.headers["content-security-policy"]).to include("default-src 'none'", "sandbox allow-same-origin")
      expect(call_api(:get, "/api/steps/#{step.id}/stack/#{person.id}")["line"]).to eq("Good to meet you.")
    end
  end

  describe "replies" do
    let(:sequence) { start(make_sequence(people: [person])) }
    let(:reply) do
      Records::Incoming.create(
        file_key: "a",
        kind: "reply",
        person_id: person.id,
        delivery_id: sequence.deliveries.first.id,
        text: "Yes",
        raw: Sequel.blob(""),
        received_at: now,
        updated_at: now
      )
    end

    it "are read, sorted, and recorded as a conversion once" do
      Records::Delivery.where(id: reply.delivery_id).update(state: "sent", sent_at: now, subject: "A word", text: "Dear Ana")
      expect(call_api(:get, "/api/replies")["replies"].first).to include(
        "text" => "Yes",
        "answers" => a_hash_including("sequence" => sequence.name, "step" => 1)
      )
      expect(call_api(:patch, "/api/replies/#{reply.id}", {sort: "interested", version: 1})).to include("sort" => "interested")
      call_api(:patch, "/api/replies/#{reply.id}", {sort: "no", version: 1}, status: 409)
      done = call_api(:post, "/api/replies/#{reply.id}/conversion", {label: "visit booked", value_pence: 24_000}, status: 201)
      expect(done).to include("conversion" => {"label" => "visit booked", "value_pence" => 24_000}, "sort" => "done")
      call_api(:post, "/api/replies/#{reply.id}/conversion", {label: "again", value_pence: 1}, status: 422)

      expect(call_api(:get, "/api/sequences/#{sequence.id}/results")["value_pence"]).to eq(24_000)
      expect(call_api(:get, "/api/deliveries/#{reply.delivery_id}")).to include("text" => "Dear Ana", "person" => person.name)
      expect(call_api(:get, "/api/today")["new_replies_count"]).to eq(0)
    end
  end

  describe "the rest of the page" do
    it "answers to the contract" do
      start(make_sequence(people: [person]))
      %w[/api/session /api/catalogue /api/today /api/mailboxes /api/practice/clock /api/post].each { |path| call_api(:get, path) }
      expect(call_api(:get, "/api/search?words=lark")["people"].map { |one| one["id"] }).to eq([person.id])
      expect(call_api(:post, "/api/post/hold")["held"]).to include("by" => maren.name)
      expect(call_api(:post, "/api/post/release")["held"]).to be_nil
    end

    it "offers each city once, the most frequent first, and none that only the bin has" do
      {"York" => 1, "york" => 2, "Hull" => 2, "Émile" => 1, "Emile" => 3}.each { |city, n| n.times { make_person(city: city) } }
      make_person(city: "Leeds", deleted_at: now)
      make_person(city: nil)
      expect(call_api(:get, "/api/catalogue")["cities"].map { |city| Core::Fold.call(city).to_s }).to eq(%w[emile york hull])
    end

    it "shows first what was to start and did not" do
      refused = make_sequence.update(start_refused: "It would be 43 letters by now.", updated_at: now - 86_400)
      make_sequence
      expect(call_api(:get, "/api/today")["drafts"].first).to include("id" => refused.id, "start_refused" => refused.start_refused)
    end

    it "settles a letter in doubt" do
      delivery = start(make_sequence(people: [person])).deliveries.first
      delivery.update(state: "in_doubt", sent_at: now)
      Work::Happening.call("opened", at: now + 5, person_id: person.id, delivery: delivery, by_machine: true)
      expect(call_api(:get, "/api/today")).to include("in_doubt_count" => 1, "in_doubt" => [include("id" => delivery.id, "heard" => nil)])
      expect(call_api(:get, "/api/today/counts")).to eq("new_replies" => 0, "in_doubt" => 1, "set_aside" => 0)
      %w[opened replied].each { |kind| Work::Happening.call(kind, at: now + 60, person_id: person.id, delivery: delivery) }
      heard = {"kind" => "opened", "at" => (now + 60).iso8601(3)}
      expect(call_api(:get, "/api/today")["in_doubt"]).to match([include("heard" => heard)])
      expect(call_api(:post, "/api/deliveries/#{delivery.id}/settle", {verdict: "sent"})).to include("state" => "sent")
    end
  end
end
