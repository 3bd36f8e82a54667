# frozen_string_literal: true

require "tempfile"
require_relative "times"

RSpec.describe SpecRun::Times do
  def read(*lines)
    Tempfile.create("examples") do |file|
      file.puts(lines)
      file.flush
      described_class.read(file.path)
    end
  end

  it "adds up what the examples of a file took, whatever became of them" do
    times =
      read(
        "example_id             | status  | run_time        |",
        "---------------------- | ------- | --------------- |",
        "./spec/a_spec.rb[1:1]  | passed  | 1.5 seconds     |",
        "./spec/a_spec.rb[1:2]  | failed  | 2 seconds       |",
        "./spec/b_spec.rb[1:1:2] | passed | 0.00012 seconds |",
        "./spec/c_spec.rb[1:1]  | unknown |                 |"
      )

    expect(times["spec/a_spec.rb"]).to eq(3.5)
    expect(times["spec/b_spec.rb"]).to eq(0.00012)
    expect(times["spec/c_spec.rb"]).to eq(described_class::UNKNOWN_SECONDS)
  end

  it "shares files so that no lane waits long for another, and forgets none" do
    times = described_class.new("a" => 9.0, "b" => 5.0, "c" => 4.0, "d" => 1.0, "e" => 1.0)
    shares = times.shares(%w[a b c d e], 2)

    expect(shares.flatten).to match_array(%w[a b c d e])
    expect(shares.map { |share| share.sum { |file| times[file] } }).to eq([10.0, 10.0])
  end
end
