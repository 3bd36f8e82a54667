# frozen_string_literal: true

# When one letter leaves, and what keeps it.
RSpec.describe Work::LeavesWhen do
  let(:people) { Array.new(3) { make_person } }
  let(:sequence) do
    Work::PlanSequence.make(name: nil, audience: {"people" => people.map(&:id)}, letter: {"letter_id" => make_letter.id}, moment: moment)
  end
  let(:maren) { make_account }
  let(:box) { Records::Mailbox[sequence.sender["mailbox_id"]] }

  before { make_mailbox(account_id: maren.id) }

  def moment(at = now) = super(at, account: maren)

  def leaves(at = now)
    described_class.new(sequence.refresh, Work::Outlook.new(sequence, moment(at)), moment(at))
  end

  def codes(...) = leaves(...).keeps.map(&:code)

  it "leaves now" do
    expect(leaves).to have_attributes(first_at: now, last_at: now, keeps: [])
  end

  it "leaves at the pace of its mailbox, the first at once" do
    box.update(pace_from: 120, pace_to: 120)
    expect(leaves).to have_attributes(first_at: now, last_at: now + 240, keeps: [])
  end

  it "waits for the hours of its mailbox" do
    minute = Core::Calendar::Zones.local(moment.firm.zone, now).last
    box.update(hours_from: minute + 60, hours_to: minute + 120)
    expect(leaves.first_at).to eq(now + 3600)
    expect(leaves.keeps.map { |keep| [keep.code, keep.mailbox_id] }).to eq([[:hours, box.id]])
  end

  it "begins on another day where its mailbox is full" do
    box.update(daily_limit: 1)
    send_one = Work::PlanSequence.make(name: "One", audience: {"people" => [make_person.id]}, letter: {"letter_id" => make_letter.id},
      moment: moment)
    start(send_one)
    expect(leaves.keeps.map(&:words)).to eq(["#{box.address} has no room left today and sends 1 a day; 3 of these leave later."])
    expect(leaves.people("full")).to match_array(people.map(&:id))
    # At nine of the days on which people work, and not at midnight: Wednesday to Friday.
    nine = ->(day) { Core::Calendar::Zones.instant(moment.firm.zone, Date.new(2026, 5, day), 540) }
    expect(leaves).to have_attributes(first_at: nine.call(13), last_at: nine.call(15))
  end

  it "says that all post is held, and by whom" do
    Work::PostHold.hold(moment)
    expect(leaves.keeps.map(&:words)).to eq(["All post is held by #{maren.name}: nothing leaves until it is released."])
  end

  it "waits for those who are away, until the morning on which they are back" do
    people.first.update(away_until: Date.new(2026, 5, 14))
    expect(leaves).to have_attributes(first_at: now, last_at: Time.utc(2026, 5, 15, 8))
    expect(leaves.keeps.map(&:words)).to eq(["1 person is away and gets it when they are back."])
    expect(Work::ReadyCheck.new(sequence, moment).kept("away")).to eq([people.first.id])
  end

  it "says that its mailbox rests" do
    box.update(rests_until: now + 600)
    expect(codes).to eq([:rests])
  end
end
