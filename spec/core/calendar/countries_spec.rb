# frozen_string_literal: true

RSpec.describe Core::Calendar::Countries do
  describe ".zone" do
    it "knows one country by all its usual names" do
      expect(["United Kingdom", "uk", "GB", "Scotland", " great  britain "].map { |words| described_class.zone(words) }.uniq).to eq(
        ["Europe/London"]
      )
    end

    it "reads names with accents, and in their own language" do
      expect(%w[España Deutschland Österreich Türkiye].map { |words| described_class.zone(words) }).to eq(
        %w[Europe/Madrid Europe/Berlin Europe/Vienna Europe/Istanbul]
      )
    end

    it "takes the zone most people live in where there are several" do
      expect(%w[USA Canada Australia Brazil Russia].map { |words| described_class.zone(words) })
        .to eq(%w[America/New_York America/Toronto Australia/Sydney America/Sao_Paulo Europe/Moscow])
    end

    it "guesses nothing from nothing" do
      expect([nil, "", "Middle Earth"].map { |words| described_class.zone(words) }).to eq([nil, nil, nil])
    end

    it "only ever gives zones that exist" do
      zones = [*described_class::OTHER_NAMES.keys, *described_class::MOST_LIVE_IN.keys].map { |words| described_class.zone(words) }

      expect(zones).to all(satisfy { |zone| Core::Calendar::Zones.known?(zone) })
    end
  end
end
