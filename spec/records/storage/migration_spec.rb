# frozen_string_literal: true

require "open3"
require "rbconfig"

RSpec.describe "a database of the version before" do
  it "is brought up to date: the figures agree, and what runs goes on with the right letters" do
    settings = {
      "NIMBLE_VAR" => TestDatabase.configuration.var,
      "DB_PORT" => TestDatabase.configuration.db_port.to_s,
      "NIMBLE_DATABASE" => "#{TestDatabase.configuration.database}_before"
    }
    out, status = Open3.capture2(settings, RbConfig.ruby, File.join(ROOT, "spec/scripts/a_database_of_before.rb"))
    expect(status).to be_success
    told = JSON.parse(out)

    expect(told["before"]).to eq("planned" => 8, "sent" => 4, "skipped" => 1, "due" => 3)
    expect(told["after"]).to eq(told["before"])
    expect(told["heard"]).to eq("opened" => 1, "replied" => 2, "clicked" => 0)
    expect(told["members"]).to eq([["active", 0, "a"], ["active", 1, "b"], ["left", 1, "a"], ["finished", nil, "b"]])
    expect(told["taken"]).to contain_exactly("p0@house.example", "p1@house.example")
    # The second letter of the first has its time now, in the version that was dealt; the second has finished.
    expect(told["open"]).to eq([["P0", 1, "a"]])
    expect(told.values_at("sent", "state", "plan")).to eq([6, "running", true])
    # What its events lack is said: who joined before plans had numbers joined the first.
    expect(told["carried"]).to eq([["carried_over", JSON.generate(plan: 1, members: 4)]])
  end
end
