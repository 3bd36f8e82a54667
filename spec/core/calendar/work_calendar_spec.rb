# frozen_string_literal: true

RSpec.describe Core::Calendar::WorkCalendar do
  subject(:calendar) { described_class.new(holidays: [Date.new(2026, 5, 25)]) }

  describe "#working_day?" do
    it "is every weekday but a holiday" do
      week = (Date.new(2026, 5, 25)..Date.new(2026, 5, 31)).map { |date| calendar.working_day?(date) }

      expect(week).to eq([false, true, true, true, true, false, false])
    end
  end

  describe "#on_or_after" do
    it "is the day itself when it is worked" do
      expect(calendar.on_or_after(Date.new(2026, 5, 22))).to eq(Date.new(2026, 5, 22))
    end

    it "goes over a weekend and the holiday behind it" do
      expect(calendar.on_or_after(Date.new(2026, 5, 23))).to eq(Date.new(2026, 5, 26))
    end

    it "says from when no day is ever worked" do
      shut = described_class.new(holidays: (Date.new(2026, 1, 1)..Date.new(2026, 12, 31)))

      expect { shut.on_or_after(Date.new(2026, 3, 1)) }.to raise_error(described_class::NoWorkingDay) do |error|
        expect(error).to have_attributes(code: :no_working_day, data: {from: Date.new(2026, 3, 1)})
      end
    end
  end

  describe "#after" do
    it "counts worked days only" do
      expect(calendar.after(Date.new(2026, 5, 22), 1)).to eq(Date.new(2026, 5, 26))
    end

    it "counts from the next worked day when it begins on a free one" do
      expect(calendar.after(Date.new(2026, 5, 23), 0)).to eq(Date.new(2026, 5, 26))
      expect(calendar.after(Date.new(2026, 5, 23), 1)).to eq(Date.new(2026, 5, 27))
    end

    it "goes over the turn of the year" do
      expect(calendar.after(Date.new(2026, 12, 31), 2)).to eq(Date.new(2027, 1, 4))
    end
  end

  it "counts back over a weekend and the holiday before it" do
    expect(calendar.after(Date.new(2026, 5, 26), -1)).to eq(Date.new(2026, 5, 22))
    expect(calendar.after(Date.new(2026, 5, 27), -3)).to eq(Date.new(2026, 5, 21))
  end

  it "is not worked while the firm is closed" do
    closed = described_class.new(closed: [Date.new(2026, 12, 24)..Date.new(2027, 1, 3)])
    expect(closed.on_or_after(Date.new(2026, 12, 24))).to eq(Date.new(2027, 1, 4))
    expect(closed.working_day?(Date.new(2026, 12, 23))).to be(true)
  end
end
