# frozen_string_literal: true

RSpec.describe Web::DatabaseTrouble do
  def answer_of(*raised, env: {})
    tries = 0
    app = ->(given) do
      tries += 1
      problem = raised.shift
      raise problem if problem

      [200, {}, [given["rack.input"]&.read.to_s]]
    end
    status, headers, body = described_class.new(app, pause: ->(_) {}).call(env)
    [status, body.join, tries, headers["retry-after"]]
  end

  let(:race) { Sequel::SerializationFailure.new("deadlock") }

  it "makes a request that lost a race once more, with the same body" do
    env = {"rack.input" => StringIO.new("words")}

    expect(answer_of(race, Sequel::DatabaseLockTimeout.new("waited"), env: env).first(3)).to eq([200, "words", 3])
  end

  it "gives up when it goes on losing, and says that it can be tried again" do
    status, body, tries, again = answer_of(*Array.new(9) { race })

    expect([status, tries, again]).to eq([503, described_class::MOST_TRIES, "3"])
    expect(JSON.parse(body)["error"]).to include("code" => "database_away")
  end

  it "does nothing twice of which a part was done for good" do
    allow(Records::Commits).to receive(:count).and_return(4, 5)

    expect(answer_of(race).values_at(0, 2)).to eq([503, 1])
  end

  it "does not make a request once more whose body is gone" do
    body = Class.new { def read = "" }.new

    expect(answer_of(race, env: {"rack.input" => body}).values_at(0, 2)).to eq([503, 1])
  end

  it "answers 503 while the records are away, whatever says so" do
    [
      Sequel::DatabaseDisconnectError.new("gone"),
      Trilogy::SyscallError::ECONNRESET.new("reset"),
      Sequel::PoolTimeout.new("none")
    ].each { |error| expect(answer_of(error).values_at(0, 2)).to eq([503, 1]) }
  end

  it "leaves every other error alone" do
    expect { answer_of(KeyError.new("x")) }.to raise_error(KeyError)
  end

  it "is what the whole site stands behind: sign-in, API and the pages letters lead to" do
    sign_in
    allow(Records::Session).to receive(:of).and_raise(Sequel::DatabaseDisconnectError, "gone")
    allow(Records::Delivery).to receive(:first).and_raise(Trilogy::ConnectionClosed, "closed")
    get "/api/today"
    expect(last_response.status).to eq(503)
    get "/c/#{Core::Tracking::Token.new(configuration.secret).write(:click, "x" * 22, 0)}"
    expect(last_response.status).to eq(503)
  end
end

# Two requests that take the same two rows in opposite order, each waiting for the other's: the database ends one of them.
RSpec.describe "two requests that meet in the database", :processes do
  it "are both answered, and both are done" do
    rows = Array.new(2) { make_person.id }
    holding = Array.new(2) { Queue.new }
    runs = Queue.new
    app = ->(env) do
      runs << env["order"]
      order = (env["order"] == 0) ? rows : rows.reverse
      Records.db.transaction do
        Records.db[:people].where(id: order.first).update(city: "York")
        # Only the first time: the one that is made again meets nobody.
        (holding[env["order"]] << true) && holding[1 - env["order"]].pop if runs.size <= 2
        Records.db[:people].where(id: order.last).update(version: Sequel[:version] + 1)
      end
      [200, {}, []]
    end
    site = Web::DatabaseTrouble.new(app, pause: ->(_) {})
    answers = Array.new(2) { |n| Thread.new { site.call("order" => n).first } }.map(&:value)

    expect(answers).to eq([200, 200])
    expect(runs.size).to eq(3)
    expect(Records::Person.where(id: rows).select_map(:version)).to eq([2, 2])
  end
end
