# frozen_string_literal: true

RSpec.describe "the API of records" do
  let!(:maren) { sign_in(colleague(name: "Maren Holt")) }

  def problem = answer["error"].values_at("code", "at")

  def york = {field: "person.city", is: "one_of", value: ["York"]}

  describe "the table" do
    it "comes with the columns, the order and the place one asks for" do
      make_person(last_name: "B", city: "York", company_id: make_company("Zed").id, owner_id: maren.id, birthday: Date.new(1980, 5, 12))
      make_person(last_name: "A", city: "Hull")
      page =
        call_api(
          :post,
          "/api/people/search",
          {
            columns: %w[company.name person.owner person.birthday person.tags activity.last],
            sort: {
              field: "person.name"
            },
            limit: 1,
            offset: 1
          }
        )

      expect(page).to include("total" => 2)
      expect(page["people"].map { |row| row["cells"] }).to eq(
        [
          {
            "company.name" => "Zed",
            "person.owner" => "Maren Holt",
            "person.birthday" => "1980-05-12",
            "person.tags" => nil,
            "activity.last" => nil
          }
        ]
      )
      call_api(:post, "/api/people/search", {columns: ["person.shoe"]}, status: 422)
      expect(problem).to eq(["unknown_field", "columns"])
    end

    it "says why somebody is in, and why not" do
      person = make_person(city: "York", do_not_mail: true)
      why = call_api(:post, "/api/people/#{person.id}/why", {audience: {condition: {all: [york, {not: {activity: "opened"}}]}}})

      expect(why).to include("matches" => true, "reason" => "asked not to be written to")
      expect(why["parts"].first["parts"].map { |part| part.values_at("words", "holds", "actual") }).to eq(
        [["is in York", true, "York"], ["has not opened any letter", true, "never"]]
      )
    end

    it "remembers what a colleague chose for themselves" do
      call_api(:put, "/api/preferences/people_view", {value: {columns: ["person.city"], sort: nil}})
      expect(call_api(:get, "/api/preferences")["preferences"]).to eq("people_view" => {"columns" => ["person.city"], "sort" => nil})
      call_api(:put, "/api/preferences/colour", {value: {}}, status: 404)
    end
  end

  describe "companies and deals" do
    it "are made, changed and found" do
      company = call_api(:post, "/api/companies", {values: {"company.name" => "The Oyster Shed"}}, status: 201)
      call_api(:patch, "/api/companies/#{company["id"]}", {version: 1, values: {"company.city" => "Whitby", "company.owner" => maren.id}})
      person = make_person(company_id: company["id"])
      deal = call_api(:post, "/api/people/#{person.id}/deals", {name: "Hall", value_pence: 5000}, status: 201)
      call_api(:patch, "/api/deals/#{deal["id"]}", {version: 1, stage: "signed"})

      expect(call_api(:get, "/api/companies/#{company["id"]}")).to include(
        "people_total" => 1,
        "deals" => [hash_including("outcome" => "won", "closed_on" => "2026-05-12")]
      )
      expect(call_api(:post, "/api/companies/search", {words: "oyster"})["companies"]).to match(
        [hash_including("name" => "The Oyster Shed", "people" => 1, "city" => "Whitby")]
      )
      call_api(:patch, "/api/companies/#{company["id"]}", {version: 1, values: {"company.city" => "Hull"}}, status: 409)
      call_api(:patch, "/api/deals/#{deal["id"]}", {version: 2, stage: "nowhere"}, status: 422)
    end
  end

  describe "filters, lists and tags" do
    it "say what a change would mean, and refuse to vanish while they are used" do
      make_person(city: "York")
      make_person(city: "Hull")
      filter = call_api(:post, "/api/filters", {name: "York", condition: york}, status: 201)
      effect = call_api(:post, "/api/filters/#{filter["id"]}/effect", {condition: {field: "person.city", is: "one_of", value: ["Hull"]}})
      expect(effect).to include("now" => 1, "then" => 1, "join" => 1, "leave" => 1)

      sequence = call_api(:post, "/api/sequences", {name: "To York", audience: {filters: [filter["id"]]}}, status: 201)
      call_api(:delete, "/api/filters/#{filter["id"]}", status: 422)
      expect(answer["error"]["data"]["used_in"]).to match([hash_including("name" => sequence["name"])])
    end

    it "keep a private filter to its maker" do
      filter = call_api(:post, "/api/filters", {name: "Mine", condition: york, shared: false}, status: 201)
      post "/auth/logout", "{}"
      sign_in(colleague(name: "Idris Vale", role: "colleague"))
      expect(call_api(:get, "/api/filters")["filters"]).to eq([])
      call_api(:delete, "/api/filters/#{filter["id"]}", status: 404)
    end

    it "are kept from what was chosen, renamed and merged" do
      people = [make_person, make_person]
      list = call_api(:post, "/api/lists", {name: "Fair", from: {ids: people.map(&:id)}, made_from: "by hand"}, status: 201)
      expect(list).to include("people" => 2, "used_in" => [])
      call_api(:patch, "/api/lists/#{list["id"]}", {name: "Fair 2026", version: 1})
      people.first.add_tag(press = Records::Tag.named("press"))
      people.last.add_tag(Records::Tag.named("media"))
      call_api(:patch, "/api/tags/#{press.id}", {name: "media"}, status: 409)
      expect(call_api(:patch, "/api/tags/#{press.id}", {name: "media", merge: true})).to include("people" => 2)
      expect(call_api(:get, "/api/tags")["tags"].map { |tag| tag["name"] }).to eq(["media"])
      call_api(:post, "/api/lists", {name: "Everybody", from: {}}, status: 422)
      call_api(:delete, "/api/lists/#{list["id"]}")
      expect(call_api(:get, "/api/lists")["lists"]).to eq([])
    end
  end

  describe "acts on many" do
    it "are done, listed and taken back" do
      people = [make_person, make_person]
      change = call_api(:post, "/api/changes", {act: {kind: "tag", names: ["press"]}, people: {ids: people.map(&:id)}}, status: 201)
      expect(change).to include("state" => "done", "words" => "Tagged 2 people press", "by" => "Maren Holt")
      expect(call_api(:post, "/api/changes/#{change["id"]}/undo")).to include("state" => "undone", "kept" => 0)
      expect(call_api(:get, "/api/changes")["changes"].size).to eq(1)
      expect(call_api(:get, "/api/changes/#{change["id"]}/kept")["total"]).to eq(0)
      call_api(:post, "/api/changes", {act: {kind: "bin"}, people: {}}, status: 422)
      expect(problem).to eq(["invalid", "people"])
    end
  end

  describe "doubles" do
    it "are told, kept apart, or merged and unmerged" do
      first, second = make_person(email: "ana@x.example"), make_person(email: "a.na+fair@x.example")
      expect(call_api(:get, "/api/doubles")["pairs"]).to match([hash_including("reason" => "address")])
      change =
        call_api(
          :post,
          "/api/people/#{first.id}/merge",
          {with: second.id, version: 1, with_version: 1, values: {"person.city" => "Hull"}}
        )
      expect(call_api(:get, "/api/people/#{first.id}")).to include(
        "city" => "Hull",
        "addresses" => [hash_including("email" => "a.na+fair@x.example")]
      )
      call_api(:post, "/api/changes/#{change["id"]}/undo")
      call_api(:post, "/api/doubles/apart", {first_id: first.id, second_id: second.id})
      expect(call_api(:get, "/api/doubles")["pairs"]).to eq([])
    end
  end

  describe "a person's addresses" do
    it "change places" do
      person = make_person(email: "old@x.example")
      expect(call_api(:post, "/api/people/#{person.id}/addresses", {email: "new@x.example", as: "in_use", version: 1})).to include(
        "email" => "new@x.example"
      )
      further = answer["addresses"].first
      expect(call_api(:delete, "/api/people/#{person.id}/addresses/#{further["id"]}")["addresses"]).to eq([])
    end
  end

  it "says who at an address said no, and ends it by somebody's word" do
    one, other = Array.new(2) { |n| make_person(email: "both@copperladle.example", last_name: "Lark #{n}") }
    call_api(:patch, "/api/people/#{one.id}", {version: 1, values: {"person.consent" => "no"}})
    read = call_api(:get, "/api/people/#{other.id}")
    expect(read).to include("may_write" => false, "no_from" => [{"id" => one.id, "name" => "Ana Lark 0", "binned" => false}])
    call_api(:post, "/api/people/#{other.id}/wants-letters", {how: "asked on the telephone"})
    expect(answer).to include("may_write" => true, "no_from" => [])
    expect(call_api(:get, "/api/people/#{one.id}/history")["entries"].first["words"]).to eq("Wants letters again: asked on the telephone")
    call_api(:post, "/api/people/#{other.id}/wants-letters", {how: "once more"}, status: 422)
  end

  it "puts a hundred tags on a person, and not five thousand" do
    person = make_person
    tags = ->(count, status) do
      values = {"person.tags" => Array.new(count) { |n| "tag #{n}" }}
      call_api(:patch, "/api/people/#{person.id}", {version: person.refresh.version, values: values}, status: status)
    end
    tags.call(5000, 422)
    expect([answer["error"]["code"], Records::Tag.count]).to eq(["too_many", 0])
    tags.call(100, 200)
  end

  describe "what the firm sets" do
    it "is for admins to change" do
      expect(call_api(:get, "/api/stages")["stages"].map { |stage| stage["outcome"] }).to eq(%w[open open open won lost])
      call_api(
        :put,
        "/api/stages",
        {stages: answer["stages"].map { |stage| stage.slice("key", "words", "outcome") } + [{words: "on hold", outcome: "open"}]}
      )
      blocked = call_api(:post, "/api/blocked", {kind: "domain", value: "blocked.example", reason: "asked"}, status: 201)["blocked"]
      call_api(:delete, "/api/blocked/#{blocked.first["id"]}")
      expect(call_api(:get, "/api/blocked")["blocked"]).to eq([])
      call_api(:post, "/api/blocked", {kind: "domain", value: "no domain", reason: "asked"}, status: 422)
      expect(call_api(:get, "/api/fields")["fields"]).to eq([])
      call_api(:post, "/api/fields", {label: "", type: "text"}, status: 422)
      made = call_api(:post, "/api/colleagues", {name: "Xenia Brook"}, status: 201)
      expect(call_api(:get, "/api/catalogue")["colleagues"]).to include(made)
      call_api(:post, "/api/colleagues", {name: "XENIA brook"}, status: 422)
      elsewhere
      sign_in(colleague(role: "colleague"))
      call_api(:post, "/api/colleagues", {name: "Somebody"}, status: 403)
      call_api(:put, "/api/stages", {stages: [{words: "a", outcome: "open"}, {words: "b", outcome: "won"}]}, status: 403)
      expect(answer["error"]["code"]).to eq("admins_only")
      call_api(:post, "/api/fields", {label: "Size", type: "number"}, status: 403)
    end
  end

  describe "files" do
    def upload(text, name: "people.csv", status: 201)
      header "Content-Type", "application/octet-stream"
      post "/api/imports?name=#{name}", text
      expect(last_response.status).to eq(status), last_response.body
      header "Content-Type", "application/json"
      answer
    end

    def clerk = Work::Clerk.new(configuration.imports, Records::Owner.new(configuration)).finish(now)

    it "go in, with progress and rows, and come back" do
      file = upload("Email;Town\na@x.example;York\nnonsense;Hull\n")
      expect(file["columns"].map { |column| column["field"] }).to eq(%w[person.email person.city])
      call_api(:post, "/api/imports/#{file["id"]}/check", {version: file["version"], matching: %w[person.email person.city]})
      clerk
      checked = call_api(:get, "/api/imports/#{file["id"]}")
      expect(checked).to include("state" => "checked", "counts" => {"new" => 1, "refused" => 1})
      expect(call_api(:get, "/api/imports/#{file["id"]}/rows?verdict=refused")["rows"].first).to include(
        "number" => 3,
        "reason" => "“nonsense” does not look like an address."
      )
      call_api(:post, "/api/imports/#{file["id"]}/take", {version: checked["version"], choices: {tags: ["fair"]}})
      clerk
      expect(call_api(:get, "/api/imports/#{file["id"]}")).to include("state" => "done", "handled" => 1)
      get "/api/imports/#{file["id"]}/refused"
      expect(last_response.body.force_encoding("UTF-8")).to include("nonsense,Hull,3,“nonsense” does not look like an address.")
      expect(call_api(:get, "/api/imports")["imports"].first["change"]).to include("kind" => "import", "state" => "done")
    end

    it "are read in another way, and say what is wrong with them" do
      file = upload("Email|Town,x\na@x.example|York,y\n")
      read = call_api(:patch, "/api/imports/#{file["id"]}", {version: file["version"], reading: {delimiter: "|"}})
      expect(read["columns"].map { |column| column["header"] }).to eq(["Email", "Town,x"])
      call_api(:patch, "/api/imports/#{file["id"]}", {version: read["version"], reading: {encoding: "EBCDIC"}}, status: 422)
      upload("", status: 422)
      upload("PK\x03\x04 no workbook", name: "people.xlsx", status: 422)
      expect(answer["error"]["hint"]).to be_a(String)
    end

    it "are read in another way and matched by one request, whole or not at all" do
      file = upload("Who,When\na@x.example,03/04/1980\n")
      ask = ->(fields, version, **more) do
        call_api(:patch, "/api/imports/#{file["id"]}", {version: version, reading: {order: "mdy"}, matching: fields}, **more)
      end
      ask.call(%w[person.email person.nothing], file["version"], status: 422)
      expect(call_api(:get, "/api/imports/#{file["id"]}")).to eq(file)
      read = ask.call(%w[person.email person.birthday], file["version"])
      expect([read["columns"].map { |one| one["field"] }, read["reading"]["order"]]).to eq([%w[person.email person.birthday], "mdy"])
    end

    it "go out as CSV, XLSX and vCard" do
      make_person(last_name: "=Lark", city: "York")
      {"csv" => "text/csv", "xlsx" => "spreadsheetml", "vcard" => "text/vcard"}.each do |format, type|
        post "/api/people/export", JSON.generate(people: {everybody: true}, format: format, columns: %w[person.last_name person.city])
        expect(last_response.status).to eq(200), last_response.body
        expect(last_response.headers["content-type"]).to include(type)
      end
      post "/api/people/export", JSON.generate(people: {condition: york}, format: "csv", columns: %w[person.last_name person.city])
      expect(last_response.body.force_encoding("UTF-8")).to eq("\uFEFFLast name,City\r\n'=Lark,York\r\n")
      call_api(:post, "/api/people/export", {people: {}, format: "csv"}, status: 422)
    end
  end

  it "adds people to a sequence that runs, with the numbers read back" do
    sequence = start(make_sequence)
    fresh = make_person
    preview = call_api(:post, "/api/sequences/#{sequence.id}/join", {audience: {people: [fresh.id]}})
    expect(preview).to include("fresh" => 1, "letters" => 2)
    expect(call_api(:post, "/api/sequences/#{sequence.id}/join", {audience: {people: [fresh.id]}, letters: 2})).to include("joined" => 1)
    call_api(:post, "/api/sequences/#{sequence.id}/join", {audience: {people: [fresh.id]}, letters: 2}, status: 409)
  end

  it "takes text that looks like SQL or a pattern for text, in every box" do
    person = make_person
    nasty = ["'; DROP TABLE people; --", "\" OR 1=1 --", "%_\\", "(.*)+$", "${7*7}", "<script>alert(1)</script>"]
    nasty.each do |text|
      call_api(
        :patch,
        "/api/people/#{person.id}",
        {version: person.refresh.version, values: {"person.last_name" => text, "person.tags" => [text]}}
      )
      expect(call_api(:post, "/api/people/search", {words: text})["total"]).to eq(1), text
      expect(
        call_api(:post, "/api/people/search", {condition: {field: "person.last_name", is: "contains", value: text}})["total"]
      ).to eq(1),
        text
      expect(call_api(:post, "/api/people/search", {condition: {field: "person.tags", is: "one_of", value: [text]}})["total"]).to eq(
        1
      ),
        text
      call_api(:post, "/api/companies/search", {words: text})
      call_api(:post, "/api/lists", {name: text, from: {ids: [person.id]}}, status: 201)
    end
    expect(Records::Person.count).to eq(1)
  end
end
