# frozen_string_literal: true

RSpec.describe Core::Statuses::Ladder do
  subject(:ladder) { described_class.new }

  describe "#after" do
    it "climbs by itself" do
      expect(ladder.after("to_write", "sent")).to eq("written")
      expect(ladder.after("written", "opened")).to eq("read")
      expect(ladder.after("answered", "converted")).to eq("won")
    end

    it "never comes down" do
      expect(ladder.after("answered", "opened")).to eq("answered")
      expect(ladder.after("won", "bounced")).to eq("won")
    end

    it "stays at an event that says nothing" do
      expect(ladder.after("written", "skipped")).to eq("written")
    end

    it "ends at the same place in whatever order events are told" do
      ends =
        %w[sent opened clicked bounced replied].permutation.map do |order|
          order.inject(ladder.first) { |status, event| ladder.after(status, event) }
        end

      expect(ends.uniq).to eq(["answered"])
    end
  end

  it "tells which statuses are a response" do
    expect(ladder.rungs.map(&:key).select { |key| ladder.response?(key) }).to eq(%w[declined answered won])
  end

  it "knows its rungs, and no other" do
    expect([ladder.known?("won"), ladder.known?("famous"), ladder.first]).to eq([true, false, "to_write"])
  end

  it "answers for a status that is none of its rungs any more: no response, its key for words, below all others" do
    expect([ladder.response?("famous"), ladder.words("famous"), ladder.words("won")]).to eq([false, "famous", "converted"])
    expect([ladder.after("famous", "sent"), ladder.after("famous", "whatever")]).to eq(%w[written famous])
  end

  it "has one rung for an event, or the way would not be plain" do
    events = ladder.rungs.flat_map(&:events)

    expect(events).to eq(events.uniq)
  end
end
