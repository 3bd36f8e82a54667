# frozen_string_literal: true

require "open3"
require "rbconfig"
require "tmpdir"

RSpec.describe "the processes" do
  def settings(var, **more)
    {
      "NIMBLE_VAR" => var,
      "PORT" => Processes::Ports.any.to_s,
      "DB_PORT" => Processes::Ports.any.to_s,
      "SMTP_PORT" => Processes::Ports.any.to_s,
      "LOOKUP_PORT" => Processes::Ports.any.to_s,
      "NIMBLE_DB_MEMORY" => "64M"
    }.merge(more.transform_keys(&:to_s))
  end

  it "ride out a database that is killed in the middle of a batch: nothing is lost and nothing goes twice" do
    Dir.mktmpdir do |var|
      out, status = Open3.capture2e(settings(var), RbConfig.ruby, File.join(ROOT, "spec/scripts/database_away.rb"))
      expect(status).to be_success, out
      told = JSON.parse(out.lines.last, symbolize_names: true)

      expect(told).to include(states: {sent: 6, due: 6}, sent_events: 6)
      expect(told[:to]).to eq([1] * 6)
      expect(told[:waited]).to be >= 3
      status, body = told[:api]
      expect(status).to eq(503)
      expect(JSON.parse(body)["error"]).to include("code" => "database_away", "hint" => a_string_including("Nothing is lost"))
    end
  end

  it "outlive a database that is killed, stays away and comes back: 503 meanwhile, at the start too" do
    Dir.mktmpdir do |var|
      out, status = Open3.capture2e(settings(var), RbConfig.ruby, File.join(ROOT, "spec/scripts/database_killed_under_parts.rb"))
      expect(status).to be_success, out

      expect(JSON.parse(out.lines.last, symbolize_names: true)).to eq(
        before: "200",
        away: %w[503 404 401],
        screen: "200",
        first_answer: "503",
        ended: [],
        same: true,
        page: "404"
      )
    end
  end

  it "give each database a folder of its own for what it keeps for a moment, so that two side by side do not meet" do
    TestDatabase.start

    expect(Records.db.get(Sequel.lit("@@tmpdir"))).to eq(File.join(configuration.var, "db-tmp"))
  end

  it "do not start twice from one folder" do
    Dir.mktmpdir do |var|
      File.open(File.join(var, "start.lock"), File::RDWR | File::CREAT) do |lock|
        lock.flock(File::LOCK_EX)
        out, status = Open3.capture2e(settings(var), RbConfig.ruby, File.join(ROOT, "bin/nimble"), "start")

        expect(status.exitstatus).to eq(1)
        expect(out).to include("runs already from #{File.realpath(var)}").or include("runs already from #{var}")
      end
    end
  end

  it "say which port is busy and what to change" do
    busy = TCPServer.new("127.0.0.1", 0)
    Dir.mktmpdir do |var|
      out, status = Open3.capture2e(settings(var, PORT: busy.addr[1].to_s), RbConfig.ruby, File.join(ROOT, "bin/nimble"), "start")

      expect(status.exitstatus).to eq(1)
      expect(out).to eq(
        "Port #{busy.addr[1]}, meant for the web server, is in use. Set PORT to another, for example PORT=#{busy.addr[1] + 100}.\n"
      )
    end
  ensure
    busy.close
  end

  it "refuse a port that is none" do
    expect { Configuration.new("PORT" => "http") }.to raise_error(Invalid, /PORT is "http"/)
  end

  it "keep one secret for good, readable by nobody else" do
    Dir.mktmpdir do |var|
      secret = Configuration.new("NIMBLE_VAR" => var).secret

      expect(Configuration.new("NIMBLE_VAR" => var).secret).to eq(secret)
      expect(File.stat(File.join(var, "secret")).mode & 0o077).to eq(0)
    end
  end
end
