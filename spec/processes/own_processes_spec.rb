# frozen_string_literal: true

require "tmpdir"

RSpec.describe Processes::OwnProcesses do
  around { |example| Dir.mktmpdir { |var| (@var = var) && example.run } }

  subject(:own) { described_class.new(@var) }

  def sleeper(*command) = Process.spawn(*(command.empty? ? %w[sleep 600] : command), out: File::NULL).tap { |pid| (@pids ||= []) << pid }

  after do
    @pids&.each do |pid|
      Process.kill(:KILL, pid)
      Process.wait(pid)
    rescue Errno::ESRCH, Errno::ECHILD
      nil
    end
  end

  it "ends what an earlier start left behind, and forgets it" do
    own.note("clerk 1", sleeper)
    reaper = Process.detach(@pids.first)

    expect(described_class.new(@var).end_left_behind).to eq(["clerk_1"])
    expect(reaper.value.termsig).to eq(Signal.list["TERM"])
    expect(own.left_behind).to eq({})
  end

  it "ends one that does not listen, too" do
    stub_const("#{described_class}::END_SECONDS", 0.2)
    reader, writer = IO.pipe
    pid = Process.spawn("trap '' TERM; echo ready; while true; do sleep 0.1; done", out: writer)
    reader.gets
    reaper = Process.detach(pid)
    own.note("worker", pid)
    own.end_left_behind

    expect(reaper.value.termsig).to eq(Signal.list["KILL"])
  end

  it "never takes somebody else's process for its own when a number is given out again" do
    own.note("worker", sleeper)
    noted = File.join(@var, "processes", "worker")
    File.write(noted, "#{@pids.first} 12345")

    expect(own.left_behind).to eq({})
    expect(own.end_left_behind).to eq([])
    expect(Process.wait(@pids.first, Process::WNOHANG)).to be_nil
  end

  it "finds nothing where nothing was started, and reads over what is no note" do
    expect(own.left_behind).to eq({})
    own.note("worker", sleeper)
    File.write(File.join(@var, "processes", "odd"), "not a number")

    expect(own.left_behind.keys).to eq(["worker"])
  end
end
