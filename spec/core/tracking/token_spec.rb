# frozen_string_literal: true

RSpec.describe Core::Tracking::Token do
  subject(:tokens) { described_class.new("s" * 32) }

  it "reads what it wrote" do
    expect(tokens.read(tokens.write(:click, "key-_1", 3))).to eq([:click, "key-_1", 3])
    expect(tokens.read(tokens.write(:unsubscribe, "key"))).to eq([:unsubscribe, "key", nil])
    expect(tokens.read(tokens.write(:open, "key"))).to eq([:open, "key", nil])
  end

  it "is safe in an address" do
    expect(tokens.write(:click, "key-_1", 3)).to match(/\A[\w.-]+\z/)
  end

  it "reads nothing that was changed anywhere" do
    token = tokens.write(:click, "abc", 0)
    token.length.times do |i|
      changed = token.dup.tap { |copy| copy[i] = (copy[i] == "x") ? "y" : "x" }
      expect(tokens.read(changed)).to be_nil, "letter #{i} of #{token}"
    end
  end

  it "reads nothing that another firm wrote, and nothing at all" do
    expect(described_class.new("t" * 32).read(tokens.write(:open, "abc"))).to be_nil
    expect([nil, "", ".", "o.abc", "🪶"].map { |token| tokens.read(token) }.uniq).to eq([nil])
  end

  it "takes no secret that is too short to keep one" do
    expect { described_class.new("s" * 31) }.to raise_error(ArgumentError, /32 bytes/)
    expect { described_class.new(nil) }.to raise_error(ArgumentError)
  end
end
