# frozen_string_literal: true

RSpec.describe Work::PostAhead do
  it "tells the next batch, and as many letters by half hour as are due" do
    sequence = start(make_sequence(people: Array.new(3) { make_person }))
    due = Records::Delivery.where(sequence_id: sequence.id).select_map(:due_at)
    told = described_class.new(moment).call

    expect(told[:next]).to eq(at: due.min, letters: 3, mailboxes: 1)
    expect(told[:bins].sum { |bin| bin[:letters] }).to be >= 3
    expect(described_class.new(moment).people.select_map(:id)).to match_array(sequence.audience["people"])
  end

  it "tells nothing of what is paused, and what is late by itself" do
    sequence = start(make_sequence(people: Array.new(2) { make_person }))
    late = moment(Records::Delivery.max(:due_at) + 60)
    expect(described_class.new(late).call).to include(late: 2, next: nil)
    sequence.update(state: "paused")
    expect(described_class.new(late).call).to include(late: 0, next: nil, bins: [])
  end
end
