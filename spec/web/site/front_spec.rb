# frozen_string_literal: true

# What every request passes before anything else looks at it.
RSpec.describe "the front of the site" do
  def problem = [last_response.status, last_response.media_type, answer.dig("error", "code")]

  # The site as it would be set up elsewhere.
  def site(**env)
    settings = {"NIMBLE_VAR" => configuration.var, "NIMBLE_DATABASE" => configuration.database, "DB_PORT" => configuration.db_port.to_s}
    @app = Web::Site.app(Configuration.new(settings.merge(env.transform_keys(&:to_s))), clock: standing_clock)
    host = env[:NIMBLE_PUBLIC_URL] ? URI(env[:NIMBLE_PUBLIC_URL]).host : ApiClient::HOST
    Rack::Test::Session.new(@app, host)
  end

  describe "how much a request may bring" do
    it "is asked before anything reads it, signed in or not" do
      {
        "/auth/login" => Web::BodyLimit::LITTLE_BYTES,
        "//auth/login" => Web::BodyLimit::LITTLE_BYTES,
        "/u/anything" => Web::BodyLimit::LITTLE_BYTES,
        "/api/people" => Web::BodyLimit::ORDINARY_BYTES,
        "/api/pictures" => Work::TakePicture::MOST_BYTES,
        "/nowhere" => Web::BodyLimit::ORDINARY_BYTES
      }.each do |path, most|
        body = instance_double(StringIO, close: nil)
        status, headers, answer = app.call(
          Rack::MockRequest.env_for("http://127.0.0.1/", method: "POST").merge(
            "HTTP_HOST" => "127.0.0.1",
            "PATH_INFO" => path,
            "rack.input" => body,
            "CONTENT_LENGTH" => (most + 1).to_s
          )
        )
        expect([status, headers["content-type"], answer.join]).to match([413, "application/json", /too_large/]), "#{path}: #{answer}"
      end
    end

    it "is counted as it is read when nobody said it" do
      limit = Web::BodyLimit.new(->(env) { [200, {}, [env["rack.input"].read.bytesize.to_s]] })
      asked = ->(bytes) do
        status, _, body = limit.call("PATH_INFO" => "/auth/login", "rack.input" => StringIO.new("x" * bytes))
        [status, body.join[0, 5]]
      end

      expect(asked.call(Web::BodyLimit::LITTLE_BYTES)).to eq([200, "16384"])
      expect(asked.call(Web::BodyLimit::LITTLE_BYTES + 1).first).to eq(413)
      expect(asked.call(0)).to eq([200, "0"])
      body = Web::CountedBody.new(StringIO.new("one\ntwo"), 7)
      expect([body.read(2), body.gets, body.read, body.read(1), body.read]).to eq(["on", "e\n", "two", nil, ""])
      body.rewind
      expect([body.each.to_a, body.read(3, +"old")]).to eq([["one\n", "two"], nil])
      expect([body, Web::CountedBody.new(Object.new, 7)].map { |one| one.respond_to?(:rewind) }).to eq([true, false])
    end

    it "lets through what is allowed, whole" do
      sign_in
      call_api(:post, "/api/people", {values: {"person.last_name" => "Lark", "person.notes" => "x"}}, status: 422)
      call_api(:post, "/api/people", {values: {"person.last_name" => "Lark"}}, status: 201)
    end
  end

  it "refuses addresses that are no text with a 4xx, everywhere" do
    sign_in
    ["/api/search?words=%FF%FE", "/api/search?words=%00", "/api/people/%C3%28", "/%FF", "/c/%80abc", "/o/%ff.gif", "/u/%c0%af",
      "/api/search?%FF=1", "/api/search?words=%", "/api/search?words=%zz", "/api/people/1/history?cursor=%F0%28", "/auth/%FF",
      "/\xC3("].each do |address|
      path, query = address.b.split("?")
      status, headers, body =
        app.call(Rack::MockRequest.env_for("http://127.0.0.1/").merge("PATH_INFO" => path, "QUERY_STRING" => query.to_s))
      expect([status, headers["content-type"], body.join]).to match([400, "application/json", /no_text/]), address
    end
    get "/api/search?words=caf%C3%A9%20%2B%25"
    expect(last_response).to be_ok
  end

  it "tells what nobody can read as the API tells things, never as a page" do
    sign_in
    {
      ["/api/people", "application/json"] => ["\xFF\xFE{", "[1]", "\"x\"", "{\"values\": {\"person.first_name\": \"\xFF\"}}",
        "#{"[" * 5000}#{"]" * 5000}", "{\"a\":" * 3000],
      ["/api/people", "multipart/form-data; boundary=x"] => ["--x\r\nbroken", "--x--", "no boundary"],
      ["/api/people", "application/x-www-form-urlencoded"] => ["a[b]=1&a=2", "a=%FF", "#{"a[b]" * 500}=1", "&" * 5000],
      ["/api/people/search?a[b]=1&a=2", "application/json"] => ["{}"]
    }.each do |(path, type), bodies|
      bodies.each do |body|
        post path, body, "CONTENT_TYPE" => type
        expect([last_response.status, last_response.media_type]).to match([be_between(200, 499), "application/json"]),
          "#{type}: #{body[0, 60].inspect}: #{last_response.status} #{last_response.body[0, 200]}"
      end
    end
  end

  describe "under which names it answers" do
    it "is its own and no other" do
      ["evil.example", "127.0.0.1.evil.example", "", "evil.example:4780"].each do |host|
        get "/api/session", {}, "HTTP_HOST" => host
        expect(problem).to eq([403, "application/json", "unknown_host"]), host
      end
      ["localhost", "127.0.0.1:4780", "LOCALHOST:80", "[::1]:4780"].each do |host|
        get "/api/session", {}, "HTTP_HOST" => host
        expect(last_response).to be_ok, host
      end
    end

    it "is what it was told it is, and a header changes nothing" do
      session = site(NIMBLE_PUBLIC_URL: "http://letters.ternandfallow.example")
      session.get("/api/session")
      expect(session.last_response.status).to eq(200)
      session.get("/api/session", {}, "HTTP_X_FORWARDED_HOST" => "evil.example")
      expect(session.last_response.status).to eq(200)
    end
  end

  describe "behind TLS" do
    let(:env) { {NIMBLE_PUBLIC_URL: "https://letters.ternandfallow.example", NIMBLE_PROXY: "127.0.0.1, 10.0.0.0/8"} }
    let(:tls) { {"HTTP_X_FORWARDED_PROTO" => "https", "HTTP_X_FORWARDED_FOR" => "203.0.113.9"} }

    it "is reached over it alone, says so for a year, and holds its cookie to it" do
      session = site(**env)
      session.get("/people?a=1")
      expect([session.last_response.status, session.last_response.headers["location"]]).to eq(
        [308, "https://letters.ternandfallow.example/people?a=1"]
      )
      session.post("/auth/login", "{}")
      expect(session.last_response.status).to eq(403)
      session.get("/api/session", {}, tls)
      expect(session.last_response.headers["strict-transport-security"]).to eq("max-age=31536000")
      expect(session.last_response.headers["set-cookie"].to_s).to match(/\A__Host-nimble=.*; path=\/;.*; secure; httponly; samesite=lax/i)
      expect(session.last_response.headers["set-cookie"].to_s).not_to match(/domain=/i)
    end

    it "believes a proxy that was stated, and nobody else" do
      session = site(**env)
      session.get("/api/session", {}, tls.merge("REMOTE_ADDR" => "198.51.100.7"))
      expect(session.last_response.status).to eq(308)
      session = site(**env.merge(NIMBLE_PROXY: ""))
      session.get("/api/session", {}, tls)
      expect(session.last_response.status).to eq(308)
    end

    it "sets no such cookie where there is no TLS" do
      take_token
      expect(last_response.headers["set-cookie"].to_s).to match(/\Animble=/)
      expect(last_response.headers).not_to have_key("strict-transport-security")
    end
  end

  describe Web::Proxy do
    def asker(trusted, **env)
      seen = nil
      described_class.new(->(given) { seen = given }, trusted).call({"REMOTE_ADDR" => "10.0.0.2"}.merge(env))
      seen
    end

    it "reads the nearest address that is not a proxy's" do
      expect(asker(["10.0.0.0/8"], "HTTP_X_FORWARDED_FOR" => "6.6.6.6, 203.0.113.9, 10.0.0.3")["REMOTE_ADDR"]).to eq("203.0.113.9")
      expect(asker(["10.0.0.0/8"], "HTTP_X_FORWARDED_FOR" => "garbage")["REMOTE_ADDR"]).to eq("10.0.0.2")
      expect(asker([], "HTTP_X_FORWARDED_FOR" => "203.0.113.9")["REMOTE_ADDR"]).to eq("10.0.0.2")
    end

    it "takes away what anybody says of their way" do
      seen = asker([], **described_class::FORWARDED.to_h { |name| [name, "x"] })

      expect(seen.keys).to eq(["REMOTE_ADDR"])
    end
  end

  it "says in the settings what is wrong with them" do
    {"NIMBLE_PROXY" => "the proxy", "NIMBLE_IDLE_MINUTES" => "soon"}.each do |name, value|
      expect { Configuration.new({name => value}) }.to raise_error(Invalid, /#{name} is "#{value}"/)
    end
  end

  describe "the pages that letters lead to" do
    it "are limited for each connection, and IPv6 counts by its network" do
      stub_const("NimbleLetter::Web::Throttle::PAGES", Core::Safety::Allowance.new(at_once: 2, every_seconds: 60))
      asked = ->(address) do
        get "/c/nothing", {}, "REMOTE_ADDR" => address
        last_response.status
      end

      expect(Array.new(3) { asked.call("198.51.100.7") }).to eq([404, 404, 429])
      expect(%w[2001:db8:1:2::1 2001:db8:1:2::2 2001:db8:1:2:ffff::3 2001:db8:1:3::1].map(&asked)).to eq([404, 404, 429, 404])
      expect(Array.new(3) { asked.call("127.0.0.1") }).to eq([404, 404, 404])
    end
  end

  it "tells nothing of our insides when something goes wrong on our side" do
    sign_in
    allow(Records::Person).to receive(:[]).and_raise(KeyError, "secret inside")
    call_api(:get, "/api/people/1", status: 500)
    expect(last_response.body).not_to include("secret inside")
    status, headers, body = Web::Mishaps.new(->(_) { raise "secret inside" }).call({})
    expect([status, headers["content-type"], body.join]).to match([500, "application/json", /our_fault/])
    expect(body.join).not_to include("secret inside")
  end

  it "notes what went wrong once, under the name that the page shows, with nothing of anybody" do
    sign_in
    person = make_person(first_name: "Tamsin", last_name: "Orchard", email: "tamsin@orchard.example")
    allow(Records::Person).to receive(:[]).and_raise(KeyError, "key not found: #{person.values.inspect} of <tamsin@orchard.example>")
    noted = logged { call_api(:get, "/api/people/#{person.id}?words=Orchard", status: 500) }

    name = answer["error"]["message"][/noted as (\w{8})\./, 1]
    expect(noted.scan("request=#{name}").size).to eq(1)
    expect(noted).to include("a request failed", "KeyError", "lib/nimble_letter/web/api.rb")
    expect(noted).not_to match(/tamsin|orchard/i)
  end
end
