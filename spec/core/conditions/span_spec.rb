# frozen_string_literal: true

RSpec.describe Core::Conditions::Span do
  let(:today) { Date.new(2026, 3, 31) }

  def span(...) = described_class.new(...)

  describe "#days_before" do
    it "ends with today and is as long as it says" do
      expect(span(1, "days").days_before(today)).to eq(today..today)
      expect(span(2, "weeks").days_before(today)).to eq(Date.new(2026, 3, 18)..today)
    end

    it "goes back by the calendar in months, and no further than a short month's end" do
      expect(span(1, "months").days_before(today)).to eq(Date.new(2026, 3, 1)..today)
      expect(span(12, "months").days_before(today)).to eq(Date.new(2025, 4, 1)..today)
    end
  end

  describe "#days_after" do
    it "begins with today" do
      expect(span(7, "days").days_after(today)).to eq(today..Date.new(2026, 4, 6))
      expect(span(1, "months").days_after(today)).to eq(today..Date.new(2026, 4, 29))
    end
  end

  describe "#instant_before" do
    it "counts days of 24 hours, over a change of clocks as well" do
      expect(span(3, "days").instant_before(Time.utc(2026, 3, 31, 7), today)).to eq(Time.utc(2026, 3, 28, 7))
      expect(span(1, "months").instant_before(Time.utc(2026, 3, 31, 7), today)).to eq(Time.utc(2026, 2, 28, 7))
    end
  end

  describe "#to_s" do
    it "says one without a number" do
      expect([span(1, "days"), span(2, "weeks"), span(1, "months")].map(&:to_s)).to eq(["day", "2 weeks", "month"])
    end
  end

  it "is a value" do
    expect(span(2, "days")).to be_frozen.and eq(span(2, "days"))
    expect([span(2, "days"), span(2, "days"), span(2, "weeks")].uniq.size).to eq(2)
  end
end

RSpec.describe Core::Conditions::Yearly do
  describe ".ranges" do
    it "is one run of days, or two over the turn of the year" do
      expect(described_class.ranges(Date.new(2026, 5, 12), 7)).to eq([512..518])
      expect(described_class.ranges(Date.new(2026, 12, 28), 7)).to eq([1228..1231, 101..103])
    end

    it "takes in those born on 29 February with the 28th, in a year that has none" do
      expect(described_class.ranges(Date.new(2026, 2, 22), 7)).to eq([222..229])
      expect(described_class.ranges(Date.new(2028, 2, 22), 7)).to eq([222..228])
    end

    it "is the whole year from 365 days on" do
      expect([365, 366].flat_map { |days| described_class.ranges(Date.new(2026, 5, 12), days) }.uniq).to eq([101..1231])
    end

    it "holds exactly as many days as asked, in a year without 29 February" do
      (1..364).each do |days|
        ranges = described_class.ranges(Date.new(2026, 11, 3), days)
        held =
          (Date.new(2027, 1, 1)..Date.new(2027, 12, 31)).count do |date|
            ranges.any? { |range| range.cover?(described_class.number(date)) }
          end
        raise "#{days} days became #{held}" unless held == days
      end
    end
  end
end
