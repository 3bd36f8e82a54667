# frozen_string_literal: true

RSpec.describe Records::Firm do
  def free(place, *days)
    calendar = described_class.new(holidays_of: place).calendar(Time.utc(2026, 11, 3))
    days.reject { |day| calendar.working_day?(Date.iso8601(day)) }
  end

  it "keeps substitute days free where a holiday falls on a weekend" do
    expect(free("gb_eng", "2026-12-25", "2026-12-28", "2026-12-29", "2027-12-27", "2027-12-28", "2028-01-03"))
      .to eq(%w[2026-12-25 2026-12-28 2027-12-27 2027-12-28 2028-01-03])
    expect(free("us", "2027-12-23", "2027-12-24", "2027-12-31", "2026-12-28")).to eq(%w[2027-12-24 2027-12-31])
  end

  it "knows at the end of its calendar that a holiday of the next year is observed before" do
    in_2025 = described_class.new(holidays_of: "us").calendar(Time.utc(2025, 6, 1))
    expect(in_2025.working_day?(Date.new(2027, 12, 31))).to be(false)
  end
end
