# frozen_string_literal: true

require "yaml"

RSpec.describe "the contract" do
  let(:paths) { YAML.safe_load_file(Web::Contract::PATH)["paths"].transform_keys { |path| path.gsub(/\{(\w+)\}/, ':\1') } }
  let(:written) { paths.flat_map { |path, verbs| (verbs.keys - ["parameters"]).map { |verb| [verb.upcase, path] } } }

  # What Sinatra answers to, with its own names for the parts of a path.
  let(:routed) do
    Web::Api.routes.except("HEAD").flat_map { |verb, routes| routes.map { |pattern, *| [verb, pattern.to_s] } }
  end

  # What must be asked with a path before the contract lets the question through.
  def needed(path)
    asked = (paths[path]["get"]["parameters"] || []).select { |one| one["in"] == "query" && one["required"] }
    URI.encode_www_form(asked.map { |one| [one["name"], one["schema"].fetch("enum", ["x"]).first] })
  end

  it "is joined from what stands in contract/" do
    expect(File.read(Web::Contract::PATH)).to eq(Web::Contract.joined), "run bin/nimble contract"
  end

  it "says the same thing once" do
    parts = Dir[File.join(Web::Contract::PARTS, "*.yaml")].map { |path| YAML.safe_load_file(path) }
    names = parts.flat_map { |part| part.fetch("paths", {}).keys + part.fetch("schemas", {}).keys }

    expect(names.tally.select { |_, times| times > 1 }).to eq({})
  end

  it "has every route, and no route stands outside of it" do
    plain = ->(all) { all.map { |verb, path| [verb, path.gsub(/:\w+/, ":x")] }.sort }

    expect(plain.call(routed)).to eq(plain.call(written))
  end

  it "is met by a sign-in wall: nothing but the session is told to strangers" do
    take_token
    readable = written.filter_map { |verb, path| path if verb == "GET" }
    open = readable.select do |path|
      get "#{path.gsub(/:\w+/, "1")}?#{needed(path)}"
      last_response.status != 401
    end

    expect(open).to eq(["/api/session"])
  end

  it "names the field that is wrong in a request" do
    sign_in
    call_api(:post, "/api/sequences/1/start", {version: "one"}, status: 400)
    expect(answer["error"]["message"]).to include("expected integer").or include("letters")
    call_api(:post, "/api/people", {shoe_size: 9}, status: 400)
    expect(answer["error"]["message"]).to include("shoe_size")
  end

  it "turns away what is too large or not JSON" do
    sign_in
    post "/api/people", "{"
    expect(last_response.status).to eq(400)
    post "/api/people", JSON.generate(values: {"person.last_name" => "x" * (Web::BodyLimit::ORDINARY_BYTES + 1)})
    expect(last_response.status).to be_between(400, 413)
  end

  it "answers in JSON where there is nothing" do
    sign_in
    get "/api/nothing"

    expect([last_response.status, answer["error"]["code"]]).to eq([404, "not_found"])
  end
end
