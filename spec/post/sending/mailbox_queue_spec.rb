# frozen_string_literal: true

RSpec.describe Post::MailboxQueue do
  let(:nine) { Time.utc(2026, 5, 12, 8).to_i }
  let(:box) { Core::Sending::Room::Box.new(id: 1, a_day: 10, from_minute: 0, to_minute: 1440) }

  Row = Struct.new(:name, :due_at, :follow_up) # rubocop:disable Lint/ConstantDefinitionInBlock -- a letter for these examples

  def row(name, minutes, follow_up: false) = Row.new(name, Time.at(nine + minutes * 60).utc, follow_up)

  def queue(*rows, most: 9, upto: nine + 3600) = described_class.new(box, rows, most: most, at: nine, upto: upto)

  def order(queue)
    names = []
    while (at = queue.next_at)
      names << [queue.shift(at).name, (at - nine) / 60]
    end
    names
  end

  it "goes by time, and of those who wait already people who have heard from us go first, then the older" do
    rows = [row("old", -9), row("older follow-up", -7, follow_up: true), row("follow-up", -5, follow_up: true), row("first", 10)]
    expect(order(queue(*rows, row("later follow-up", 20, follow_up: true))))
      .to eq([["older follow-up", 0], ["follow-up", 0], ["old", 0], ["first", 10], ["later follow-up", 20]])
  end

  it "looks at nothing after its time, and no further than what was read" do
    expect(order(queue(row("now", 0), row("late", 61)))).to eq([["now", 0]])
    read = queue(row("one", 0), row("two", 5, follow_up: true), row("three", 9), most: 2)
    expect(order(read)).to eq([["one", 0], ["two", 5], ["three", 9]])
    expect(order(queue(row("one", 0), row("two", 1), row("unread before it", 9, follow_up: true), most: 2)))
      .to eq([["one", 0], ["two", 1]])
  end
end
