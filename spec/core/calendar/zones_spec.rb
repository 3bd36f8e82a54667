# frozen_string_literal: true

RSpec.describe Core::Calendar::Zones do
  let(:london) { described_class.fetch("Europe/London") }

  describe ".fetch" do
    it "knows zones by name, and takes the firm's usual one for a name nobody knows" do
      expect(described_class.fetch("Asia/Tokyo").identifier).to eq("Asia/Tokyo")
      expect(["Middle/Earth", nil].map { |name| described_class.fetch(name).identifier }.uniq).to eq(["Europe/London"])
    end
  end

  describe ".known?" do
    it "tells a zone from any other word" do
      expect(["Europe/Paris", "Paris", nil].map { |name| described_class.known?(name) }).to eq([true, false, false])
    end
  end

  describe ".local" do
    it "gives the date and minute on the wall there" do
      expect(described_class.local(described_class.fetch("Asia/Tokyo"), Time.utc(2026, 5, 12, 20, 15))).to eq([Date.new(2026, 5, 13), 315])
      expect(described_class.local(described_class.fetch("America/New_York"), Time.utc(2026, 5, 12, 2, 0))).to eq(
        [Date.new(2026, 5, 11), 22 * 60]
      )
    end

    it "knows clocks that differ by a part of an hour" do
      expect(described_class.local(described_class.fetch("Asia/Kathmandu"), Time.utc(2026, 5, 12, 0, 0))).to eq(
        [Date.new(2026, 5, 12), 345]
      )
    end
  end

  describe ".instant" do
    it "takes an hour that is left out as the hour after" do
      expect(described_class.instant(london, Date.new(2026, 3, 29), 90)).to eq(Time.utc(2026, 3, 29, 1, 30))
    end

    it "takes an hour that happens twice the first time" do
      expect(described_class.instant(london, Date.new(2026, 10, 25), 90)).to eq(Time.utc(2026, 10, 25, 0, 30))
    end

    it "is the way back from what .local gave, whatever the zone and the minute" do
      names = %w[Europe/London America/New_York Asia/Kathmandu Australia/Lord_Howe Pacific/Auckland]
      PropCheck.forall(PropCheck::Generators.choose(0..600_000)).with_config(n_runs: 300) do |minutes|
        instant = Time.utc(2026, 1, 1) + minutes * 60
        names.map { |name| described_class.fetch(name) }.each do |zone|
          wall = described_class.local(zone, instant)
          back = described_class.instant(zone, *wall)
          # An hour that happens twice comes back as its first time: the same on the wall.
          raise "#{zone.identifier} #{instant} became #{back}" unless back == instant || described_class.local(zone, back) == wall
        end
      end
    end
  end
end
