# frozen_string_literal: true

RSpec.describe Core::Fields::Habit do
  def date(text, order = nil) = described_class.new(order: order).date(text)

  describe "#date" do
    ["1980-05-12", "12 May 1980", "May 12, 1980", "12th may 1980", "12. Sept 1980", "1980-05-12T10:00", " 1980-05-12 "].each do |text|
      it "reads #{text.inspect} for certain" do
        expect(date(text)).to eq(Date.new(1980, text.include?("Sept") ? 9 : 5, 12))
      end
    end

    it "is nil for what is no day" do
      expect(["30 February 1980", "2026-02-30", "12 Foo 1980", "soon", "", "2026"].map { |text| date(text) }.uniq).to eq([nil])
    end

    it "never guesses which of 03/04 is the month" do
      expect(date("03/04/2026")).to be_nil
    end

    it "reads them in the order the file has" do
      expect([date("03/04/2026", "dmy"), date("03/04/2026", "mdy"), date("26-04-03", "ymd")]).to eq(
        [Date.new(2026, 4, 3), Date.new(2026, 3, 4), Date.new(2026, 4, 3)]
      )
      expect(date("25/06/2026", "mdy")).to be_nil
    end

    it "takes a year of two digits for one of the last fifty or next fifty" do
      expect([date("3.4.26", "dmy"), date("3.4.49", "dmy"), date("3.4.50", "dmy"), date("3.4.76", "dmy")].map(&:year)).to eq(
        [2026, 2049, 1950, 1976]
      )
    end
  end

  describe ".orders_for" do
    it "leaves only the orders in which every text is a day" do
      expect(described_class.orders_for(["03/04/2026", "05/06/2026"])).to eq(%w[dmy mdy])
      expect(described_class.orders_for(["03/04/2026", "25/06/2026"])).to eq(%w[dmy])
      expect(described_class.orders_for(["31/12/2026", "12/31/2026"])).to eq([])
    end
  end

  describe "#number" do
    {
      %w[1,234.50 .] => "1234.5",
      %w[1.234,50 ,] => "1234.5",
      %w[£12 .] => "12",
      ["12 €", ","] => "12",
      ["12 %", "."] => "12",
      %w[-3 .] => "-3",
      %w[+3 .] => "3",
      ["1 234 567,8", ","] => "1234567.8",
      ["1’234".tr("’", "'"), "."] => "1234",
      ["1\u202f234", ","] => "1234"
    }.each do |(text, decimal), expected|
      it "reads #{text.inspect} where the fraction follows a #{decimal.inspect}" do
        expect(described_class.new(decimal: decimal).number(text)).to eq(BigDecimal(expected))
      end
    end

    it "is nil for a number in another habit, and for none" do
      expect(described_class.new(decimal: ".").number("1.234,50")).to be_nil
      expect(["12 o'clock", "1,23", "", "--3", "1e5", "½"].map { |text| described_class.new.number(text) }.uniq).to eq([nil])
    end
  end

  it "refuses an order or a mark that nobody writes" do
    expect { described_class.new(order: "ydm") }.to raise_error(Invalid) { |error| expect(error.at).to eq("order") }
    expect { described_class.new(decimal: ";") }.to raise_error(Invalid) { |error| expect(error.at).to eq("decimal") }
  end
end
