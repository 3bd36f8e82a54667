# frozen_string_literal: true

RSpec.describe Work::DayBook do
  let(:mailbox) { make_mailbox(daily_limit: 2) }

  # First letters by day, of the firm's calendar.
  def days(sequence) = Work::Outlook.new(sequence, moment).rows.map { |row| moment.firm.today(row.first_at) }.tally

  it "gives a full mailbox's letters the next days, what is planned already included" do
    start(make_sequence(people: Array.new(3) { make_person }, mailbox: mailbox))
    planned = Records::Delivery.where(mailbox_id: mailbox.id).all.map { |one| moment.firm.today(one.due_at) }.tally
    expect(planned.values).to eq([2, 1])

    more = days(make_sequence(people: Array.new(4) { make_person }, mailbox: mailbox))
    together = planned.merge(more) { |_, one, other| one + other }
    expect(together.values).to all(eq(2).or(eq(1)))
    expect(together.values.sum).to eq(7)
    expect(together.keys.sort.first(3)).to eq(together.keys.sort.select { |day| together[day] == 2 })
  end

  it "leaves other mailboxes alone" do
    start(make_sequence(people: Array.new(4) { make_person }, mailbox: mailbox))
    expect(days(make_sequence(people: Array.new(2) { make_person }, mailbox: make_mailbox)).size).to eq(1)
  end
end
