# frozen_string_literal: true

RSpec.describe Records::UpdateTogether do
  it "gives each row its own values, empty ones and odd words too, and leaves the others alone" do
    sequence = start(make_sequence(people: Array.new(4) { make_person }))
    members = Records::Member.order(:id).all
    at = Time.utc(2026, 5, 12, 9, 30, 15)
    plain = {due_at: nil, waits_for: "time", spent: nil, step_id: sequence.steps.last.id, moved: false}
    rows = members.first(3).map { |member| {id: member.id, **plain} }
    rows[0].merge!(due_at: at, waits_for: nil, spent: "[1,\"ö'\\\\\"]", moved: true)
    rows[1][:step_id] = nil
    Records::Member.where(id: members[2].id).update(due_at: at, spent: "[2]", moved: true)

    expect(described_class.call(:members, rows)).to eq(3)
    now = Records.db[:members].order(:id).all.map { |row| row.values_at(:due_at, :waits_for, :spent, :step_id, :moved) }
    last = sequence.steps.last.id
    expect(now).to eq(
      [[at, nil, "[1,\"ö'\\\\\"]", last, true], [nil, "time", nil, nil, false], [nil, "time", nil, last, false],
        [nil, "time", nil, sequence.steps.first.id, false]]
    )
    expect(described_class.call(:members, [])).to eq(0)
  end
end
