# frozen_string_literal: true

RSpec.describe Records::AsksForOne do
  let(:asked) { [] }
  let(:listener) { Logger.new(StringIO.new).tap { |one| one.formatter = ->(_, _, _, message) { asked << message } } }
  let(:people) { Records::Person.where(city: "York") }

  before do
    3.times { |n| make_person(city: (n == 2) ? "Leeds" : "York") }
    Records.db.loggers << listener
  end

  after { Records.db.loggers.delete(listener) }

  it "has one row sent, however many there are" do
    expect([people.any?, people.none?, people.where(city: "Leeds").any?]).to eq([true, false, false])
    expect(asked).to all(match(/LIMIT 1\z/))
    expect(asked.size).to eq(3)
  end

  it "leaves to each row what is asked of each" do
    expect([people.any? { |one| one.city == "Leeds" }, people.none?(Records::List), people.any?(Records::Person)])
      .to eq([false, true, true])
  end
end
