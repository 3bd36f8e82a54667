# frozen_string_literal: true

RSpec.describe "/api/colleagues" do
  let!(:maren) { sign_in }
  let!(:idris) { colleague(name: "Idris Vale", role: "colleague") }

  it "shows admins who works here, and what was changed is noted" do
    make_account(name: "A name in a file", email: nil, role: "colleague")
    listed = call_api(:get, "/api/colleagues")["colleagues"]
    expect(listed.map { |one| one.values_at("name", "role", "signs_in", "closed") }).to contain_exactly(
      ["Maren Holt", "admin", true, false],
      ["Idris Vale", "colleague", true, false],
      ["A name in a file", "colleague", false, false]
    )
    call_api(:patch, "/api/colleagues/#{idris.id}", {role: "admin"})
    call_api(:patch, "/api/colleagues/#{idris.id}", {role: "admin"})
    expect(log_lines("colleague_changed").map { |line| line[:about] }).to eq(["Idris Vale: is now an admin"])
  end

  it "says what goes by the name of each, which stays so when their sign-in is closed" do
    theirs = Array.new(3) { make_person(owner_id: idris.id) }
    theirs.first.update(deleted_at: now)
    make_mailbox(account_id: idris.id)
    # One is done, and one is about somebody in the bin.
    [[theirs.last, "open"], [theirs.last, "done"], [theirs.first, "open"]].each do |person, state|
      Records::Task.create(person_id: person.id, account_id: idris.id, words: "Ring them", state: state, made_at: now, updated_at: now)
    end
    listed = call_api(:get, "/api/colleagues")["colleagues"].to_h { |one| [one["name"], one.values_at("people", "tasks", "mailboxes")] }
    expect(listed).to include("Idris Vale" => [2, 1, 1], "Maren Holt" => [0, 0, 0])
    expect(call_api(:patch, "/api/colleagues/#{idris.id}", {closed: true})).to include("people" => 2, "tasks" => 1, "mailboxes" => 1)
    owned = call_api(:post, "/api/people/search", {condition: {field: "person.owner", is: "one_of", value: [idris.id]}})
    expect(owned["total"]).to eq(2)
  end

  it "closes a sign-in at once, and opens it again" do
    elsewhere
    sign_in(idris)
    idriss = rack_mock_session.cookie_jar["nimble"]
    elsewhere
    sign_in(maren)
    expect(call_api(:patch, "/api/colleagues/#{idris.id}", {closed: true})["closed"]).to be(true)
    expect(Records::Session.where(account_id: idris.id)).to be_empty
    clear_cookies
    rack_mock_session.cookie_jar << Rack::Test::Cookie.new("nimble=#{Rack::Utils.escape(idriss)}", URI("http://127.0.0.1/"))
    call_api(:get, "/api/today", status: 401)
    elsewhere
    sign_in(idris)
    expect(last_response.status).to eq(401)
  end

  it "leaves one admin at least, and nobody changes their own" do
    call_api(:patch, "/api/colleagues/#{maren.id}", {role: "colleague"}, status: 422)
    expect(answer["error"]["code"]).to eq("yourself")
    idris.update(role: "admin")
    maren.update(role: "colleague")
    moment = Work::Moment.new(now: now, account: make_account(name: "Another", email: nil))
    expect { Work::ChangeColleague.call(idris, moment: moment, closed: true) }.to raise_error(Invalid, /Nobody would be left/)
    expect(idris.refresh).to be_open
  end

  it "keeps admins' matters from colleagues, and notes who tried" do
    elsewhere
    sign_in(idris)
    call_api(:patch, "/api/colleagues/#{idris.id}", {role: "admin"}, status: 403)
    call_api(:get, "/api/safety-log", status: 403)
    expect(log_lines("refused").map { |line| line[:who] }).to eq(["Idris Vale", "Idris Vale"])
  end

  describe "the log of what matters to safety" do
    it "is read by admins a page at a time, newest first" do
      stub_const("NimbleLetter::Records::SafetyLog::SHOWN", 2)
      3.times { |n| Work::SafetyNote.write("setting_changed", who: maren, about: "change #{n}") }
      page = call_api(:get, "/api/safety-log?kind=setting_changed")
      expect(page["lines"].map { |line| line["about"] }).to eq(["change 2", "change 1"])
      rest = call_api(:get, "/api/safety-log?kind=setting_changed&before=#{page["next_before"]}")
      expect([rest["lines"].map { |line| line["about"] }, rest["next_before"]]).to eq([["change 0"], nil])
    end

    it "can be added to and not changed, by whoever runs the application" do
      Work::SafetyNote.write("setting_changed", who: maren, about: "a change")
      [-> { Records::SafetyLog.dataset.update(about: "another") }, -> { Records::SafetyLog.dataset.delete }].each do |act|
        expect { Records.db.transaction(savepoint: true) { act.call } }.to raise_error(Sequel::DatabaseError, /denied/)
      end
    end

    it "is of the kinds that the contract names" do
      expect(YAML.safe_load_file(Web::Contract::PATH).dig("components", "schemas", "SafetyKind", "enum")).to eq(Work::SafetyNote::KINDS)
    end

    it "keeps no password, however it is tried" do
      elsewhere
      post "/auth/login", JSON.generate(email: maren.email, password: "my secret 1234")
      sign_in(maren)
      post "/auth/change-password", JSON.generate(password: "my secret 1234", new_password: "my secret 5678")

      expect(Records::SafetyLog.dataset.all.to_s).not_to include("my secret")
    end
  end
end

RSpec.describe "a filter of somebody's" do
  let(:maker) { colleague(name: "Idris Vale", role: "colleague") }
  let(:condition) { {"field" => "person.city", "is" => "York"} }
  let!(:filter) do
    Records::SavedFilter.create(name: "York", condition: condition, account_id: maker.id, created_at: now, updated_at: now)
  end

  it "is mended by everybody, and taken away or for oneself by whoever made it" do
    sign_in(colleague(name: "Petra Lund", role: "colleague"))
    call_api(:patch, "/api/filters/#{filter.id}", {shared: false, version: 1}, status: 403)
    expect(answer["error"]).to include("code" => "not_yours", "hint" => a_string_including("Idris Vale"))
    call_api(:delete, "/api/filters/#{filter.id}", status: 403)
    call_api(:patch, "/api/filters/#{filter.id}", {name: "In York", shared: true, version: 1})

    elsewhere
    sign_in(maker)
    call_api(:patch, "/api/filters/#{filter.id}", {shared: false, version: 2})
    call_api(:delete, "/api/filters/#{filter.id}")
  end

  it "is an admin's to take away as well" do
    sign_in
    call_api(:delete, "/api/filters/#{filter.id}")
    expect(Records::SavedFilter[filter.id]).to be_nil
  end
end
