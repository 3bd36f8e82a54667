# frozen_string_literal: true

RSpec.describe Core::Safety::Allowance do
  subject(:allowance) { described_class.new(at_once: 3, every_seconds: 10) }

  let(:noon) { Time.utc(2026, 5, 12, 12) }

  # @return [Array<Boolean>] whether each could be done, at so many seconds after noon
  def tried(*seconds)
    full_at = nil
    seconds.map do |second|
      at = noon + second
      next false if allowance.wait_seconds(full_at, at).positive?

      full_at = allowance.used(full_at, at)
      true
    end
  end

  it "lets so many through at once, then one every so often" do
    expect(tried(0, 0, 0, 0, 9, 10, 10, 20, 21, 30)).to eq([true, true, true, false, false, true, false, true, false, true])
  end

  it "is whole again after a pause, and not more than whole" do
    expect(tried(0, 0, 0, 1000, 1000, 1000, 1000)).to eq([true, true, true, true, true, true, false])
  end

  it "says how long to wait" do
    full_at = 3.times.inject(nil) { |full, _| allowance.used(full, noon) }

    expect(allowance.wait_seconds(full_at, noon)).to eq(10.0)
    expect(allowance.wait_seconds(full_at, noon + 4)).to eq(6.0)
    expect(allowance.wait_seconds(allowance.given_back(full_at), noon)).to eq(0.0)
  end

  it "is of at least one, and of some time" do
    expect { described_class.new(at_once: 0, every_seconds: 1) }.to raise_error(ArgumentError)
    expect { described_class.new(at_once: 1, every_seconds: 0) }.to raise_error(ArgumentError)
  end
end

RSpec.describe Core::Safety::Agent do
  it "names a browser as its owner would" do
    {
      "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 Chrome/126.0 Safari/537.36 Edg/126.0" => "Edge on Windows",
      "Mozilla/5.0 (Macintosh; Intel Mac OS X 14_5) AppleWebKit/605.1.15 Version/17.5 Safari/605.1.15" => "Safari on a Mac",
      "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 Chrome/126.0 Mobile Safari/537.36" => "Chrome on Android",
      "Firefox" => "Firefox",
      "curl/8.1" => "Another program",
      nil => "Another program"
    }.each { |header, words| expect(described_class.words(header)).to eq(words) }
  end
end
