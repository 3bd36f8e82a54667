# frozen_string_literal: true

RSpec.describe "signing in" do
  let(:maren) { colleague }

  it "opens the API to a colleague and shuts it again" do
    take_token
    call_api(:get, "/api/people/1", status: 401)
    sign_in(maren)
    expect(call_api(:get, "/api/session")["account"]).to include("name" => "Maren Holt", "role" => "admin")
    post "/auth/logout", "{}"
    call_api(:get, "/api/today", status: 401)
  end

  it "says the same of a wrong password and of an address nobody has" do
    sign_in(maren, password: "wrong")
    first = [last_response.status, answer["error"]]
    post "/auth/login", JSON.generate(email: "nobody@ternandfallow.example", password: "wrong")

    expect([last_response.status, answer["error"]]).to eq(first)
    expect(first).to eq([401, "This address and password do not belong together."])
  end

  it "locks after too many tries, even for the right password" do
    sign_in(maren, password: "wrong")
    (Web::SignIn::MAX_TRIES - 1).times { post "/auth/login", JSON.generate(email: maren.email, password: "wrong") }
    post "/auth/login", JSON.generate(email: maren.email, password: ApiClient::PASSWORD)

    expect(last_response.status).to eq(403)
    expect(answer["error"]).to include("locked")
  end

  it "takes no change without the page's own token" do
    sign_in(maren)
    header "X-CSRF-Token", "made up"
    post "/api/people", JSON.generate(values: {"person.first_name" => "Zoë"})

    expect(last_response.status).to eq(403)
  end

  it "slows down somebody who tries too often" do
    take_token
    statuses = Array.new(Web::Throttle::SIGN_INS_A_MINUTE + 1) do |n|
      post "/auth/login", JSON.generate(email: "guess#{n}@ternandfallow.example", password: "x")
      last_response.status
    end

    expect(statuses.last).to eq(429)
    expect(answer["error"]["hint"]).to include("Wait")
  end

  it "lets only an admin change a mailbox" do
    box = make_mailbox
    sign_in(colleague(role: "colleague"))
    call_api(:patch, "/api/mailboxes/#{box.id}", {daily_limit: 5}, status: 422)
    expect(answer["error"]["code"]).to eq("admins_only")
    sign_in(maren)
    expect(call_api(:patch, "/api/mailboxes/#{box.id}", {daily_limit: 5})).to include("daily_limit" => 5)
  end

  it "sends a policy that lets nothing run but what is shipped" do
    get "/api/session"

    expect(last_response.headers["content-security-policy"]).to include("default-src 'self'", "frame-ancestors 'none'")
    expect(last_response.headers["content-security-policy"]).not_to include("unsafe")
    expect(last_response.headers["set-cookie"].to_s).to match(/httponly; samesite=lax/i)
  end
end
