# frozen_string_literal: true

RSpec.describe Bell do
  around { |example| Dir.mktmpdir { |folder| (@folder = File.join(folder, "bells")) && example.run } }

  let(:bells) { Array.new(3) { described_class.new(@folder) } }

  it "wakes everybody but oneself, once for however many rings" do
    pipes = bells.map(&:listen)
    3.times { bells.first.ring }
    woken = -> { pipes.map { |pipe| !pipe.wait_readable(0).nil? } }

    expect(woken.call).to eq([false, true, true])
    bells.each(&:heard)
    expect(woken.call).to eq([false, false, false])
  ensure
    bells.each(&:close)
  end

  it "rings where nobody listens, and clears away who ended without a word" do
    bells.first.ring
    process = fork { bells.first.listen && exit!(0) }
    Process.wait(process)
    expect(Dir.children(@folder).size).to eq(1)

    bells.last.ring
    expect(Dir.children(@folder)).to eq([])
  end

  it "listens where one of the same number was killed" do
    bells.first.listen
    name = Dir.children(@folder).first
    bells.first.close
    File.mkfifo(File.join(@folder, name))

    again = bells.first.listen
    bells.last.ring
    expect(again.wait_readable(0)).not_to be_nil
  ensure
    bells.first.close
  end

  it "takes no more than a pipe holds, and makes nobody wait" do
    pipe = bells.first.listen
    70_000.times { bells.last.ring }
    bells.first.heard

    expect(pipe.wait_readable(0)).to be_nil
  ensure
    bells.first.close
  end
end
