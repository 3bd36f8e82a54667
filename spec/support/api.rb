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

  def app = @app ||= Web::Site.app(configuration, clock: standing_clock)

  def committee_options = {schema: Web::Contract.schema, query_hash_key: "rack.request.query_hash", parse_response_by_content_type: true}

  def request_object = last_request

  def response_data = [last_response.status, last_response.headers, last_response.body]

  def answer = JSON.parse(last_response.body)

  def colleague(**values) = make_account(password_hash: BCrypt::Password.create(PASSWORD, cost: BCrypt::Engine::MIN_COST).to_s, **values)

  def take_token
    get "/api/session"
    header "X-CSRF-Token", answer["csrf"]
    header "Content-Type", "application/json"
    header "Accept", "application/json"
  end

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

RSpec.configure do |config|
  config.define_derived_metadata(file_path: %r{/spec/web/}) { |metadata| metadata[:api] = true }
  config.include ApiClient, :api
end
