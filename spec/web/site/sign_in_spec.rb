# frozen_string_literal: true

RSpec.describe "signing in" do
  let(:maren) { colleague }

  def try(email, password) = post("/auth/login", JSON.generate(email: email, password: password))

  # As if so much time had gone by for what is counted.
  def let_pass(seconds)
    Records.db[:allowances].update(full_at: Sequel.date_sub(:full_at, seconds: seconds))
  end

  it "opens the API to a colleague and shuts it again" do
    take_token
    call_api(:get, "/api/people/1", status: 401)
    sign_in(maren)
    expect(call_api(:get, "/api/session")["account"]).to include("name" => "Maren Holt", "role" => "admin")
    post "/auth/logout", "{}"
    call_api(:get, "/api/today", status: 401)
    expect(log_lines(nil).map { |line| line.values_at(:kind, :who) }).to eq([["signed_out", "Maren Holt"], ["signed_in", "Maren Holt"]])
  end

  describe "to somebody who guesses" do
    before { take_token }

    let(:strangers) do
      {
        "a wrong password" => maren.email,
        "an address nobody has" => "nobody@ternandfallow.example",
        "a closed sign-in" => colleague(status_id: Records::Account::CLOSED).email,
        "a colleague without a sign-in" => make_account(password_hash: nil).email,
        "an address with another letter" => maren.email.sub("colleague", "colléague"),
        "no text at all" => "\u0000"
      }
    end

    it "says the same, to the letter, whoever it is" do
      answers = strangers.transform_values do |email|
        try(email, "wrong #{email}")
        [last_response.status, last_response.body, last_response.headers.except("set-cookie", "content-length")]
      end

      expect(answers.values.uniq.size).to eq(1), answers.inspect
      expect(answers.values.first.first(2)).to match([401, /This address and password do not belong together/])
    end

    it "does the same work: one password is hashed, whoever it is" do
      hashed = []
      allow(BCrypt::Engine).to receive(:hash_secret).and_wrap_original do |original, *given|
        hashed << given
        original.call(*given)
      end
      strangers.each_value do |email|
        Web::SignIn.nobody
        hashed.clear
        try(email, "wrong")
        expect(hashed.size).to eq(1), email
      end
    end

    it "slows them down on one account, known or not, and says for how long" do
      [maren.email, "nobody@ternandfallow.example"].each do |email|
        Array.new(Work::SignInTries::ACCOUNT.at_once) { try(email, "wrong") }
        expect(last_response.status).to eq(401)
        try(email, "wrong")

        expect([last_response.status, answer["error"]["code"]]).to eq([429, "too_often"])
        expect(Integer(last_response.headers["retry-after"])).to be_between(30, 40)
        let_pass(40)
        try(email, "wrong")
        expect(last_response.status).to eq(401)
      end
      expect(log_lines("slowed_down").map { |line| line[:who] }).to eq(["nobody@ternandfallow.example", maren.email])
    end

    it "allows no more than a hundred tries an hour on one account (ASVS 2.2.1)" do
      allowance = Work::SignInTries::ACCOUNT
      full_at, now, made = nil, Time.utc(2026, 5, 12), 0
      3600.times do |second|
        at = now + second
        next if allowance.wait_seconds(full_at, at).positive?

        full_at, made = allowance.used(full_at, at), made + 1
      end

      expect(made).to be_between(90, 100)
    end

    it "is not got around by another spelling of the path, of the address, or of where it comes from" do
      Work::SignInTries::ACCOUNT.at_once.times { try(maren.email, "wrong") }
      ways = {
        "//auth/login" => {},
        "/auth//login" => {},
        "/auth/login/" => {},
        "/auth/login" => {"HTTP_X_FORWARDED_FOR" => "203.0.113.9", "HTTP_X_REAL_IP" => "203.0.113.9", "HTTP_CLIENT_IP" => "203.0.113.9"},
        "/auth/%6Cogin" => {}
      }
      [maren.email, maren.email.upcase, " #{maren.email} "].each do |email|
        ways.each do |path, headers|
          post path, JSON.generate(email: email, password: ApiClient::PASSWORD), headers
          expect(last_response).not_to be_ok, path
          call_api(:get, "/api/today", status: 401)
        end
      end
    end

    it "slows down a connection that tries many accounts" do
      statuses = Array.new(Work::SignInTries::CONNECTION.at_once + 1) do |n|
        try("guess#{n}@ternandfallow.example", "x")
        last_response.status
      end

      expect(statuses.tally).to eq(401 => Work::SignInTries::CONNECTION.at_once, 429 => 1)
    end

    it "counts for all processes together" do
      Work::SignInTries::ACCOUNT.at_once.times { try(maren.email, "wrong") }
      another = Rack::Test::Session.new(Web::Site.app(configuration, clock: standing_clock), ApiClient::HOST)
      another.get("/api/session")
      token = JSON.parse(another.last_response.body)["csrf"]
      another.post(
        "/auth/login",
        JSON.generate(email: maren.email, password: "wrong"),
        "CONTENT_TYPE" => "application/json",
        "HTTP_X_CSRF_TOKEN" => token
      )

      expect(another.last_response.status).to eq(429)
    end

    it "forgets what was counted once it is all there again" do
      try(maren.email, "wrong")
      clerk = Work::Clerk.new(configuration.imports, Records::Owner.new(configuration))
      clerk.finish(now)
      expect(Records.db[:allowances].count).to be > 0
      let_pass(60)
      clerk.finish(now)
      expect(Records.db[:allowances].count).to eq(0)
    end

    it "never shuts out the colleague at a desk they know" do
      sign_in(maren)
      post "/auth/logout", "{}"
      device = rack_mock_session.cookie_jar["nimble-device"]
      elsewhere
      (Work::SignInTries::ACCOUNT.at_once + 1).times { try(maren.email, "wrong") }
      expect(last_response.status).to eq(429)

      rack_mock_session.cookie_jar << Rack::Test::Cookie.new("nimble-device=#{device}", URI("http://127.0.0.1/"))
      try(maren.email, ApiClient::PASSWORD)
      expect(last_response).to be_ok
    end

    it "lets a right password in from a new device, however many strangers guess at that account all the time" do
      account = maren
      ask = ->(from, password) do
        post "/auth/login", JSON.generate(email: account.email, password: password), "REMOTE_ADDR" => from
        last_response.status
      end
      strangers = Array.new(4) { |n| "198.51.100.#{n + 1}" }
      guess = -> { strangers.map { |from| ask.call(from, "wrong") }.count(401) }
      made = Array.new(60) { guess.call.tap { let_pass(10) } }.sum
      expect(made).to be_between(15, Work::SignInTries::ACCOUNT.at_once + 600 / 40 + 1)

      expect(ask.call("203.0.113.9", ApiClient::PASSWORD)).to eq(429)
      wait = Integer(last_response.headers["retry-after"])
      # Forty seconds for each that waits already, and for themselves.
      expect(wait).to be <= 40 * (strangers.size + 1)
      (wait / 5.0).ceil.times { guess.call.then { let_pass(5) } }
      expect(ask.call("203.0.113.9", ApiClient::PASSWORD)).to eq(200)
    end

    it "takes no device for another's, and none that was made up" do
      tomas = colleague(name: "Tomas Quill")
      known = Core::Safety::KnownDevice.new(configuration.secret)
      token = known.write(tomas.id, "abc")

      expect(known.nonce(token, tomas.id)).to eq("abc")
      others = known.nonce(token.sub(tomas.id.to_s, maren.id.to_s), maren.id)
      expect([known.nonce(token, maren.id), others, known.nonce("", 1), known.nonce(nil, 1)]).to all(be_nil)
    end

    it "counts a try that succeeds for nothing" do
      (Work::SignInTries::ACCOUNT.at_once * 2).times do
        elsewhere
        try(maren.email, ApiClient::PASSWORD)
        expect(last_response).to be_ok
      end
    end

    it "gives no answer that is not JSON to what is not one" do
      ["{", "[]", "\"x\"", "null", "{\"email\": [1], \"password\": {\"a\": 1}}", "\xff\xfe"].each do |body|
        post "/auth/login", body
        expect(last_response.status).to be_between(400, 429), "#{body}: #{last_response.body}"
        expect(last_response.media_type).to eq("application/json")
        expect(answer["error"]["message"]).to be_a(String)
      end
    end
  end

  it "takes JSON and nothing else, and says so as everything else is said" do
    take_token
    form = "email=#{maren.email}&password=#{ApiClient::PASSWORD}"
    {"application/x-www-form-urlencoded" => form, "text/plain" => "{}"}.each do |type, body|
      post "/auth/login", body, "CONTENT_TYPE" => type
      expect([last_response.status, last_response.media_type, answer["error"]["code"]]).to eq([400, "application/json", "not_json"])
    end
    post "/auth/logout", "", "CONTENT_TYPE" => "multipart/form-data; boundary=x"
    expect(last_response.media_type).to eq("application/json")
  end

  it "takes no change without the page's own token" do
    sign_in(maren)
    header "X-CSRF-Token", "made up"
    post "/api/people", JSON.generate(values: {"person.first_name" => "Zoë"})

    expect([last_response.status, answer["error"]["code"]]).to eq([403, "out_of_date"])
  end

  it "sends a policy that lets nothing run but what is shipped" do
    take_token

    expect(last_response.headers["content-security-policy"]).to include("default-src 'self'", "frame-ancestors 'none'")
    expect(last_response.headers["content-security-policy"]).not_to include("unsafe")
    expect(last_response.headers["set-cookie"].to_s).to match(/httponly; samesite=lax/i)
  end

  it "offers the demo's sign-in where a demo was built, whatever the firm is called, and nowhere else" do
    Records::Firm.save(name: Demo::Firm::NAME)
    expect(call_api(:get, "/api/session")["demo"]).to be_nil

    Demo::Firm.make(now: now)
    Records::Firm.save(name: "Another name")
    expect(call_api(:get, "/api/session")["demo"]).to eq("email" => "maren@ternandfallow.example", "password" => Demo::Firm::PASSWORD)
  end
end
