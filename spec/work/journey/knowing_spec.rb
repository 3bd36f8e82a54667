# frozen_string_literal: true

# What is read of people for the journey.
RSpec.describe Work::Knowing, :db do
  let(:plan) { make_sequence(people: [], letters: [make_letter]).plan }
  let(:people) { make_people(6) }

  it "is of those who were asked for, close together or far apart" do
    first, _, third, *_, last = people
    [[first, third], [third, first], [last, third, first], [first], []].each do |ids|
      expect(described_class.people(ids, plan).to_a.map { |id, person| [id, person.id] }).to match_array(ids.zip(ids))
    end
    expect(described_class.people([first, last, last + 1000], plan).keys).to contain_exactly(first, last)
  end

  it "is of as many as there are" do
    many = (1..200_000).to_h { |id| [id, id] }
    expect(described_class.only(many, (2..200_000).to_a).size).to eq(199_999)
    expect(described_class.only(many, many.keys)).to eq(many)
  end

  it "is the same for those of whom nothing besides is known, but for the seed" do
    Records::Person[people.last].update(time_zone: "Pacific/Auckland")
    known = moment.known_of(Records::Person.order(:id).all, plan)
    expect(known.transform_values(&:seed)).to eq(people.to_h { |id| [id, id] })
    expect(known.values.map(&:core).uniq.size).to eq(2)
    expect(known[people.last].their_zone.identifier).to eq("Pacific/Auckland")
  end
end
