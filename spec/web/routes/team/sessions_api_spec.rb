# frozen_string_literal: true

RSpec.describe "being signed in" do
  let(:maren) { colleague }
  let(:fresh_password) { "felt and timber 4 ever" }

  # Who is asked for by a cookie that was kept.
  def cookie = rack_mock_session.cookie_jar["nimble"]

  def with_cookie(kept)
    clear_cookies
    rack_mock_session.cookie_jar << Rack::Test::Cookie.new("nimble=#{Rack::Utils.escape(kept)}", URI("http://127.0.0.1/"))
    take_token
    get "/api/today"
    last_response.status
  end

  def sessions = Records.db[:account_active_session_keys]

  def earlier(column, seconds) = sessions.update(column => Sequel.date_sub(Sequel.function(:UTC_TIMESTAMP, 6), seconds: seconds))

  it "ends with signing out, whoever kept the cookie" do
    sign_in(maren)
    kept = cookie
    expect(with_cookie(kept)).to eq(200)
    post "/auth/logout", "{}"

    expect(with_cookie(kept)).to eq(401)
  end

  it "ends by itself when nothing is done for a while, and after half a day whatever is done" do
    sign_in(maren)
    earlier(:last_use, configuration.idle_seconds - 30)
    call_api(:get, "/api/today")
    earlier(:last_use, configuration.idle_seconds + 1)
    call_api(:get, "/api/today", status: 401)

    sign_in(maren)
    earlier(:created_at, Records::Session::LONGEST_SECONDS + 1)
    call_api(:get, "/api/today", status: 401)
  end

  it "is not kept up by what a page asks by itself" do
    sign_in(maren)
    earlier(:last_use, 600)
    before = sessions.get(:last_use)
    get "/api/today", {}, "HTTP_X_BY_ITSELF" => "1"
    expect([last_response.status, sessions.get(:last_use)]).to eq([200, before])
    get "/api/today"
    expect(sessions.get(:last_use)).to be > before
  end

  it "ends at once when the account is closed, and when it is taken away" do
    sign_in(maren)
    maren.update(status_id: Records::Account::CLOSED)
    call_api(:get, "/api/today", status: 401)
    expect(call_api(:get, "/api/session")["account"]).to be_nil
  end

  it "forgets sessions that have ended long ago, and none that lasts" do
    sign_in(maren)
    clerk = Work::Clerk.new(configuration.imports, Records::Owner.new(configuration))
    clerk.finish(now)
    expect(sessions.count).to eq(1)
    earlier(:last_use, Work::Clerk::SESSIONS_KEPT_SECONDS + 1)
    clerk.finish(now)
    expect(sessions.count).to eq(0)
  end

  describe "in several browsers" do
    before do
      header "User-Agent", "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0"
      sign_in(maren)
      @first = cookie
      elsewhere
      header "User-Agent", "Mozilla/5.0 (iPhone; CPU iPhone OS 17_5 like Mac OS X) AppleWebKit/605.1.15 Version/17.5 Safari/604.1"
      sign_in(maren)
    end

    it "is listed with what they are, and ended one by one" do
      listed = call_api(:get, "/api/sessions")["sessions"]
      expect(listed.map { |one| one.values_at("agent", "current") }).to contain_exactly(
        ["Safari on an iPhone", true],
        ["Firefox on Linux", false]
      )
      call_api(:delete, "/api/sessions/#{listed.find { |one| !one["current"] }["id"]}")
      call_api(:get, "/api/today")
      expect(with_cookie(@first)).to eq(401)
      expect(log_lines("session_ended").first).to include(who: "Maren Holt", about: "Firefox on Linux")
    end

    it "ends everywhere else in one move" do
      expect(call_api(:post, "/api/sessions/end-others", {})).to eq("ended" => 1)
      call_api(:get, "/api/today")
      expect(with_cookie(@first)).to eq(401)
    end

    it "is nobody else's to see or to end" do
      others = call_api(:get, "/api/sessions")["sessions"].map { |one| one["id"] }
      elsewhere
      sign_in(colleague(name: "Idris Vale"))
      expect(call_api(:get, "/api/sessions")["sessions"].size).to eq(1)
      call_api(:delete, "/api/sessions/#{others.first}", status: 403)
      expect(with_cookie(@first)).to eq(200)
    end
  end

  describe "with a password of one's own" do
    def change(from, to)
      post "/auth/change-password", JSON.generate(password: from, new_password: to)
      last_response.status
    end

    before { sign_in(maren) }

    it "changes it, which ends all other sessions" do
      here = cookie
      elsewhere
      sign_in(maren)
      expect(change(ApiClient::PASSWORD, fresh_password)).to eq(200)
      call_api(:get, "/api/today")
      expect(with_cookie(here)).to eq(401)

      sign_in(maren)
      expect(last_response.status).to eq(401)
      sign_in(maren, password: fresh_password)
      call_api(:get, "/api/today")
      expect(log_lines("password_changed").size).to eq(1)
    end

    it "changes it, which ends the session it is done in too: a copy of its cookie opens nothing" do
      kept = cookie
      expect(change(ApiClient::PASSWORD, fresh_password)).to eq(200)
      take_token
      call_api(:post, "/api/sessions/end-others", {})
      expect(call_api(:get, "/api/sessions")["sessions"].size).to eq(1)
      expect(with_cookie(kept)).to eq(401)
    end

    it "asks for the old one, however short a time ago it was given" do
      expect(change("not it", fresh_password)).to eq(401)
      expect(answer["error"]).to include("at" => "password", "message" => "This is not your password.")
      expect(change(nil, fresh_password)).to eq(401)
      expect(log_lines("password_refused").map { |line| line[:who] }).to eq(["Maren Holt"] * 2)
    end

    it "takes none that is short, that cannot be kept whole, that everybody tries, or that it is already" do
      {
        "short" => /at least 12/,
        "å" * 37 => /at most 72/,
        "1q2w3e4r5t6y" => /commonly used|very common/,
        maren.email => /“.+” is known to everybody who knows you or the firm/,
        " " * 12 => /easy to guess/,
        ApiClient::PASSWORD => /have now/
      }.each do |given, words|
        expect([change(ApiClient::PASSWORD, given), answer.dig("error", "message")]).to match([422, words]), given
      end
      long = "felt lined ceilings listen better than most of us in that old dining room!"
      expect(change(ApiClient::PASSWORD, "#{long[0, 71]}ö")).to eq(422)
      expect(change(ApiClient::PASSWORD, "#{long[0, 70]}ö")).to eq(200)
    end

    it "is guessed no faster here than at the door" do
      statuses = Array.new(Work::SignInTries::ACCOUNT.at_once + 1) { change("guess", fresh_password) }

      expect(statuses.tally).to eq(401 => Work::SignInTries::ACCOUNT.at_once, 429 => 1)
    end

    it "no longer offers the demo's when it is not the demo's any more" do
      Records.db[:settings].insert(key: Demo::Firm::KEY, value: JSON.generate(maren.email))
      expect(call_api(:get, "/api/session")["demo"]).not_to be_nil
      change(ApiClient::PASSWORD, fresh_password)
      expect(call_api(:get, "/api/session")["demo"]).to be_nil
    end
  end

  describe "for a sensitive act" do
    before do
      sign_in(maren)
      @tomas = colleague(name: "Tomas Quill", role: "colleague")
    end

    # The clock of the session is the machine's own.
    def an_hour_later
      later = Time.now + Web::SignIn::FRESH_SECONDS + 1
      allow(Time).to receive(:now).and_return(later)
    end

    def close_tomas(status) = call_api(:patch, "/api/colleagues/#{@tomas.id}", {closed: true}, status: status)

    it "asks for the password again after an hour, and goes on once it is given" do
      close_tomas(200)
      call_api(:patch, "/api/colleagues/#{@tomas.id}", {closed: false})
      an_hour_later
      close_tomas(403)
      expect(answer["error"]["code"]).to eq("password_again")
      post "/auth/confirm-password", JSON.generate(password: "wrong")
      expect([last_response.status, answer["error"]["message"]]).to eq([401, "This is not your password."])
      expect(log_lines("password_refused").size).to eq(1)
      close_tomas(403)
      post "/auth/confirm-password", JSON.generate(password: ApiClient::PASSWORD)
      expect(last_response).to be_ok
      close_tomas(200)
    end

    it "asks so for a file of everybody, and not for one of a few" do
      3.times { make_person }
      some = Records::Person.select_map(:id).first(2)
      an_hour_later
      post "/api/people/export", JSON.generate(people: {everybody: true}, format: "csv")
      expect([last_response.status, answer["error"]["code"]]).to eq([403, "password_again"])
      post "/api/people/export", JSON.generate(people: {ids: some}, format: "csv")
      expect(last_response).to be_ok
      expect(log_lines("exported").first).to include(about: "2 people as csv", who: "Maren Holt", connection: "127.0.0.1")
    end

    it "asks so for the start of more than a thousand letters" do
      sequence = make_sequence
      Records::Firm.save(name: "Tern & Fallow Acoustics", postal_address: "4 Felt Yard, York", time_zone: "Europe/London")
      stub_const("NimbleLetter::Work::Moment::MANY", 1)
      an_hour_later
      call_api(:post, "/api/sequences/#{sequence.id}/start", {version: 1, letters: 2}, status: 403)
      expect([answer["error"]["code"], sequence.refresh.state]).to eq(%w[password_again draft])
      stub_const("NimbleLetter::Work::Moment::MANY", 2)
      call_api(:post, "/api/sequences/#{sequence.id}/start", {version: 1, letters: 2})
      expect(log_lines("sequence_started").first).to include(about: "“Quieter rooms”, 2 letters")
    end
  end
end
