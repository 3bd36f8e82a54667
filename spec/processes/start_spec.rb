# frozen_string_literal: true

require "net/http"
require "rbconfig"
require "tmpdir"

# `bin/start` without its set-up, in a folder and on ports of its own, with a firm that is there already.
RSpec.describe "the start" do
  around { |example| Dir.mktmpdir { |var| (@var = var) && example.run } }

  let(:settings) do
    ports = %w[PORT DB_PORT SMTP_PORT LOOKUP_PORT].to_h { |name| [name, Processes::Ports.any.to_s] }
    {"NIMBLE_VAR" => @var, "NIMBLE_DB_MEMORY" => "64M", **ports}
  end
  let(:server) { Processes::DatabaseServer.new(Configuration.new(settings)) }
  let(:log) { File.join(@var, "start.log") }

  before { @started = [] }

  after do
    @started.each do |pid|
      Process.kill(:TERM, pid)
      Process.wait(pid)
    rescue Errno::ESRCH, Errno::ECHILD
      nil
    end
    Processes::OwnProcesses.new(@var).end_left_behind
    server.stop(server.running_pid)
  end

  # What the first start does, but for the half year.
  def build_firm
    script = "require './lib/nimble_letter'; include NimbleLetter; c = Configuration.new; s = Processes::DatabaseServer.new(c); " \
      "pid = s.start; Records.connect(c); Records.migrate(c); Practice::Clock.new.set(Time.utc(2026, 5, 12)); " \
      "Records.db[:settings].insert(key: Processes::DemoData::MARK, value: 'true'); s.stop(pid)"
    expect(system(settings, RbConfig.ruby, "-e", script, chdir: ROOT)).to be(true)
  end

  def start
    File.write(log, "")
    pid = Process.spawn(settings, RbConfig.ruby, File.join(ROOT, "bin/nimble"), "start", out: log, err: log)
    @started << pid
    wait_until("it is ready: #{File.read(log)}") { File.read(log).include?("Ready") }
    pid
  end

  def page = Net::HTTP.get_response("127.0.0.1", "/api/session", Integer(settings.fetch("PORT"))).code

  def pid_of(name) = File.read(File.join(@var, "processes", name)).to_i

  def gone?(pid) = !File.exist?("/proc/#{pid}") || File.read("/proc/#{pid}/stat").match?(/\) Z /)

  it "starts again what is killed, the database too, and knows what a killed start has left behind" do
    build_firm
    first = start
    worker, database = pid_of("worker"), server.running_pid
    Process.kill(:KILL, worker)
    wait_until("there is another worker") { File.exist?(File.join(@var, "processes", "worker")) && pid_of("worker") != worker }
    expect(File.read(File.join(@var, "parts.json"))).to include("worker")

    Process.kill(:KILL, database)
    wait_until("there is another database") { server.running_pid && server.running_pid != database }
    wait_until("the page is back") { page == "200" }

    taken_over, web = server.running_pid, pid_of("web")
    Process.kill(:KILL, first)
    Process.wait(first)
    second = start
    expect([page, server.running_pid, gone?(web)]).to eq(["200", taken_over, true])

    Process.kill(:TERM, second)
    expect(Process.wait2(second).last.exitstatus).to eq(0)
    expect([server.running_pid, Processes::OwnProcesses.new(@var).left_behind]).to eq([nil, {}])
  end
end
