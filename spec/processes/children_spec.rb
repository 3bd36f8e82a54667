# frozen_string_literal: true

require "tmpdir"

# Children as they are, of a part that needs no database.
RSpec.describe Processes::Children do
  around { |example| Dir.mktmpdir { |var| (@var = var) && example.run } }

  let(:seconds) { [0] }
  let(:configuration) do
    Configuration.new("NIMBLE_VAR" => @var, "LOOKUP_PORT" => Processes::Ports.any.to_s, "PORT" => Processes::Ports.any.to_s)
  end
  let(:children) { described_class.new(configuration, clock: -> { seconds.first }) }

  after { children.stop }

  def kill(name)
    pid = children.pids.fetch(name)
    Process.kill(:KILL, pid)
    ended = []
    ended = children.look_after until ended.any?
    ended
  end

  def pass(span) = seconds[0] += span

  it "starts one again that ends by itself, after pauses that grow, and is patient with one that was well" do
    children.start("lookups")
    expect(kill("lookups")).to eq(["lookups"])
    expect(children.waiting).to eq(["lookups"])
    children.look_after
    expect(children.pids).to eq({})

    [1, 2, 4].each do |pause|
      pass(pause - 0.1)
      children.look_after
      expect(children.pids).to eq({})
      pass(0.1)
      children.look_after
      expect(children.pids.keys).to eq(["lookups"])
      kill("lookups") unless pause == 4
    end

    pass(described_class::WELL_SECONDS)
    kill("lookups")
    pass(1)
    children.look_after
    expect(children.pids.keys).to eq(["lookups"])
  end

  it "are others once the code has changed, the web first, also when it cannot begin" do
    children.start("lookups", port: configuration.lookup_port)
    # With no database it answers "not just now" for ever.
    children.start("web")
    before = children.pids
    began = []
    allow(children).to receive(:spawn).and_wrap_original { |spawn, child| began << child.part && spawn.call(child) }
    allow(children).to receive(:answers?) { pass(described_class::READY_SECONDS + 1) && false }
    children.renew(%w[web lookups], port: configuration.port)

    expect(began).to eq(%w[web lookups])
    expect(children.pids.keys).to match_array(before.keys)
    expect(children.pids.values & before.values).to eq([])
  end

  it "notes who they are while they run" do
    children.start("lookups")
    expect(Processes::OwnProcesses.new(@var).left_behind).to eq("lookups" => children.pids["lookups"])
    children.stop

    expect(Processes::OwnProcesses.new(@var).left_behind).to eq({})
  end

  it "are not left behind by one that was killed" do
    script = "require './lib/nimble_letter'; c = NimbleLetter::Processes::Children.new(NimbleLetter::Configuration.new); " \
      "puts c.start('lookups', port: NimbleLetter::Configuration.new.lookup_port); $stdout.flush; sleep"
    environment = {"NIMBLE_VAR" => @var, "LOOKUP_PORT" => configuration.lookup_port.to_s}
    reader, writer = IO.pipe
    parent = Process.spawn(environment, RbConfig.ruby, "-e", script, chdir: ROOT, out: writer)
    child = Integer(reader.gets)
    Process.kill(:KILL, parent)
    Process.wait(parent)

    gone = -> { !File.exist?("/proc/#{child}") || File.read("/proc/#{child}/stat").match?(/\) Z /) }
    wait_until("the child has ended", &gone)
    expect(Processes::OwnProcesses.new(@var).left_behind).to eq({})
  end
end

RSpec.describe Processes::Rounds do
  around { |example| Dir.mktmpdir { |folder| (@var = folder) && example.run } }

  def going_round(pause_seconds: 7, look_seconds: 90) =
    described_class.new(
      "worker",
      Configuration.new("NIMBLE_VAR" => @var, "NIMBLE_LOOK_SECONDS" => look_seconds.to_s),
      pause_seconds: pause_seconds,
      now: -> { Builders::NOW }
    )

  it "sets aside what a round raises, and goes on" do
    rounds = 0
    allow(Processes::Signals).to receive(:wait) { |_pause| rounds == 3 }
    going_round.run do
      rounds += 1
      raise KeyError, "round #{rounds}" if rounds < 3

      false
    end

    expect(Records::SetAside.first).to have_attributes(kind: "round", key: "worker KeyError", tries: 2, reason: "key error: round 2")
  end

  it "waits for a database that is away, and sets nothing aside" do
    pauses = []
    allow(Processes::Signals).to receive(:wait) { |pause| pauses.push(pause).size == 3 }
    answers = [-> { raise Sequel::DatabaseDisconnectError, "gone" }, -> { false }]
    going_round.run { answers.shift.call }

    expect(pauses).to eq([described_class::AWAY_SECONDS, 7, 90])
    expect(Records::SetAside.count).to eq(0)
  end

  it "sleeps until somebody rings, and wakes the others when something has happened" do
    bell = Bell.new(Configuration.new("NIMBLE_VAR" => @var).bells)
    rung = bell.listen
    rounds, heard = 0, []
    allow(Processes::Signals).to receive(:wait).and_wrap_original do |wait, pause, **also|
      heard << (rung.wait_readable(0) ? :rung : :still)
      bell.heard
      bell.ring if also[:other]
      rounds > 3 || wait.call(pause, **also)
    end
    going_round(pause_seconds: 0).run { (rounds += 1) == 2 }

    # Nothing, and asleep until the bell; something, which rings; nothing, and asleep again.
    expect(heard.first(5)).to eq(%i[still still rung still still])
    expect(rounds).to eq(4)
  ensure
    bell.close
  end
end
