# frozen_string_literal: true

RSpec.describe Core::Results::Wilson do
  describe ".interval" do
    # Newcombe 1998, Stat. Med. 17: 857-872, table I: 81 of 263, 15 of 148 and 0 of 20.
    {[81, 263] => [0.2553, 0.3662], [15, 148] => [0.0624, 0.1605], [0, 20] => [0.0, 0.1611]}.each do |(hits, base), published|
      it "gives the published interval of #{hits} of #{base}" do
        expect(described_class.interval(hits, base).map { |share| share.round(4) }).to eq(published)
      end
    end

    it "says nothing of an empty base" do
      expect(described_class.interval(0, 0)).to be_nil
    end

    it "holds the share itself, and stays between none and all" do
      PropCheck
        .forall(PropCheck::Generators.tuple(PropCheck::Generators.choose(1..500), PropCheck::Generators.choose(0..500)))
        .with_config(n_runs: 300) do |(base, some)|
          hits = [some, base].min
          low, high = described_class.interval(hits, base)
          unless low.between?(0, hits.fdiv(base) + 1e-12) && high.between?(hits.fdiv(base) - 1e-12, 1)
            raise "#{hits} of #{base}: #{low} to #{high}"
          end
        end
    end
  end
end

RSpec.describe Core::Results::Figure do
  describe "#rate" do
    it "is the share of its base" do
      expect(described_class.new("opened", 3, 12).rate).to eq(0.25)
    end

    it "is nothing without a base, or with an empty one" do
      expect([described_class.new("planned", 3).rate, described_class.new("opened", 0, 0).rate]).to eq([nil, nil])
    end
  end

  describe "#interval" do
    it "is told only where the base is small" do
      expect(described_class.new("opened", 10, 99).interval).to match([be_within(0.001).of(0.0558), be_within(0.001).of(0.176)])
      expect([described_class.new("opened", 10, 100).interval, described_class.new("planned", 10).interval]).to eq([nil, nil])
    end
  end

  it "tells of what its base is made" do
    expect(described_class.new("opened", 1, 3).to_h).to eq(
      name: "opened",
      count: 1,
      base: 3,
      base_name: "sent",
      rate: 0.3333,
      interval: [0.0615, 0.7923]
    )
    expect(described_class.new("sent", 3, 4).to_h[:base_name]).to eq("planned")
  end
end

RSpec.describe Core::Results::Heard do
  it "counts what was heard of a letter when it counts as sent, and not before" do
    heard = described_class.bits("replied", "bounced")
    expect(described_class.counts_as("sent", heard)).to eq(%w[sent replied bounced])
    %w[due claimed on_wire in_doubt failed skipped].each { |state| expect(described_class.counts_as(state, heard)).to eq([state]) }
  end

  it "says of a letter that nobody reacted to that it is unanswered, whatever servers said of it" do
    expect(described_class.counts_as("sent", 0)).to eq(%w[sent unanswered])
    expect(described_class.counts_as("sent", described_class.bits("bounced"))).to eq(%w[sent bounced unanswered])
    expect(described_class.bits("sent", "sneezed")).to eq(0)
  end
end
