# frozen_string_literal: true

RSpec.describe Work::KeepClosedDays do
  let(:admin) { moment(account: make_account(role: "admin")) }

  it "puts off what waits for a closed day, once, and never sooner" do
    sequence = start(make_sequence(people: Array.new(3) { make_person }))
    before = Records::Delivery.where(sequence_id: sequence.id).select_hash(:id, :due_at)
    day = moment.firm.today(before.values.first)
    2.times { described_class.call([{from: day.iso8601, to: day.iso8601, words: "Stocktaking"}], moment: admin) }

    after = Records::Delivery.where(sequence_id: sequence.id).select_hash(:id, :due_at)
    expect(after.map { |id, due| [due > before[id], moment.firm.today(due) > day] }.uniq).to eq([[true, true]])
  end
end
