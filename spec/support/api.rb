# frozen_string_literal: true

require "rack/test"
require "bcrypt"
require "committee"

# Talks to the whole site as a browser does, and holds every answer against the contract.
module ApiClient
  include Rack::Test::Methods
  include Committee::Test::Methods

  PASSWORD = "quiet rooms 2026"

  StandingClock = Struct.new(:now) do
    def target = nil

    def advance_to(time) = self.now = time
  end

  def standing_clock = @standing_clock ||= StandingClock.new(Builders::NOW)

  HOST = "127.0.0.1"

  def app = @app ||= Web::Site.app(configuration, clock: standing_clock)

  # A browser that asks under a name the site answers to.
  def build_rack_test_session(_name) = Rack::Test::Session.new(app, HOST)

  def committee_options = {schema: Web::Contract.schema, query_hash_key: "rack.request.query_hash", parse_response_by_content_type: true}

  def request_object = last_request

  def response_data = [last_response.status, last_response.headers, last_response.body]

  def answer = JSON.parse(last_response.body)

  def colleague(**values) = make_account(password_hash: BCrypt::Password.create(PASSWORD).to_s, **values)

  def take_token
    get "/api/session"
    header "X-CSRF-Token", answer["csrf"]
    header "Content-Type", "application/json"
    header "Accept", "application/json"
  end

  # Another browser: nothing of the first one's.
  def elsewhere
    clear_cookies
    take_token
  end

  def log_lines(kind) = Records::SafetyLog.page(kind: kind)

  def sign_in(account = colleague, password: PASSWORD)
    take_token
    post "/auth/login", JSON.generate(email: account.email, password: password)
    take_token if last_response.ok?
    account
  end

  # @param status [Integer] expected
  # @return [Hash] the answer, which keeps to the contract when it is a good one
  def call_api(verb, path, body = nil, status: 200)
    public_send(verb, path, body && JSON.generate(body))
    expect(last_response.status).to eq(status), "#{verb} #{path}: #{last_response.status} #{last_response.body[0, 600]}"
    assert_response_schema_confirm(status) if status < 400
    answer
  end
end

# A sign-in costs what hashing costs; specs need the work done, not the time spent.
BCrypt::Engine.cost = BCrypt::Engine::MIN_COST

RSpec.configure do |config|
  config.define_derived_metadata(file_path: %r{/spec/web/}) { |metadata| metadata[:api] = true }
  config.include ApiClient, :api
end
