# frozen_string_literal: true

require "mail"

RSpec.describe "sending what is due" do
  let(:opened) { Time.utc(2026, 5, 12, 10, 20) }
  let(:accepted) { Post::Outcomes::Accepted.new("250 ok") }
  let(:person) { make_person }
  let!(:sequence) { start(make_sequence(people: [person]), at: now - 3600) }

  def deliveries = Records::Delivery.where(sequence_id: sequence.id).order(:id).all

  def send_with(*answers, at: opened)
    ToldTransport.new(*answers).tap { |transport| worker(transport: transport).dispatch_due(at) }
  end

  before { Records::Delivery.where(sequence_id: sequence.id, state: "due").update(due_at: opened - 60) }

  it "records the letter as it looked, moves the status and makes the next one due" do
    transport = send_with(accepted)
    first, second = deliveries

    expect(transport.delivered.map { |one| one[:to] }).to eq([person.email])
    expect(first).to have_attributes(
      state: "sent",
      sent_at: opened,
      subject: "A word about your room",
      text: a_string_including("Dear Ana,", "How is York?")
    )
    expect(second).to have_attributes(state: "due", due_at: a_value_between(Time.utc(2026, 5, 15, 8), Time.utc(2026, 5, 15, 10, 30)))
    expect(Records::Member.first.status).to eq("written")
  end

  it "writes correct mail with the way out (RFC 8058)" do
    Records::Firm.save(name: firm.name, postal_address: firm.postal_address)
    mail = Mail.new(send_with(accepted).delivered.first[:raw])

    expect(mail.message_id).to eq(deliveries.first.message_id)
    expect(mail["List-Unsubscribe-Post"].value).to eq("List-Unsubscribe=One-Click")
    expect(mail["List-Unsubscribe"].value).to match(%r{\A<http://127\.0\.0\.1:\d+/u/[\w.-]+>\z})
    expect(mail.text_part.decoded).to include("4 Felt Yard, York")
    expect(mail.html_part.decoded).to include("/o/", "width=\"1\"")
  end

  it "does not send a letter with a gap" do
    Records::Letter.first.update(body: document("Dear {{job title}}"))
    transport = send_with(accepted)

    expect(transport.delivered).to be_empty
    expect(deliveries.first).to have_attributes(state: "failed", reason: "Nothing to put in for: job title.")
  end

  it "takes somebody whose address is refused for good out, and says so on the record" do
    send_with(Post::Outcomes::Refused.new("550 no such mailbox", true))

    expect(deliveries.map(&:state)).to eq(%w[failed skipped])
    expect(person.refresh.address_failed).to be(true)
    expect(Records::Member.first.status).to eq("not_reached")
    expect(figures(sequence)).to include("planned" => 2, "failed" => 1, "skipped" => 1, "sent" => 0)
  end

  it "tries again later what was refused for now, five times" do
    later = opened
    busy = Post::Outcomes::Refused.new("451 busy", false)
    4.times do
      send_with(busy, at: later)
      expect(deliveries.first.state).to eq("due")
      later = deliveries.first.due_at
    end
    expect(later - opened).to eq(300 + 600 + 900 + 1200)
    send_with(busy, at: later)

    expect(deliveries.first.state).to eq("failed")
    expect(person.refresh.address_failed).to be(false)
  end

  it "never resends by itself what is in doubt, until somebody settles it" do
    send_with(Post::Outcomes::Doubtful.new("the line broke"))
    expect(deliveries.first.state).to eq("in_doubt")
    expect(send_with(accepted).delivered).to be_empty

    Work::SettleDelivery.call(deliveries.first, "again", moment: moment(opened))
    expect(send_with(accepted).delivered.size).to eq(1)
    expect { Work::SettleDelivery.call(deliveries.first, "sent", moment: moment) }.to raise_error(Invalid)
  end

  it "goes on to the next step when a letter in doubt is known to have arrived" do
    send_with(Post::Outcomes::Doubtful.new("the line broke"))
    Work::SettleDelivery.call(deliveries.first, "sent", moment: moment(opened))

    expect(deliveries.map(&:state)).to eq(%w[sent due])
  end

  it "sends nothing while the post is held or the sequence paused" do
    Work::PostHold.hold(moment)
    expect(send_with(accepted).delivered).to be_empty
    Work::PostHold.release
    Work::RunSequence.call(sequence, "pause", moment: moment)
    expect(send_with(accepted).delivered).to be_empty
    Work::RunSequence.call(sequence, "resume", moment: moment)
    expect(send_with(accepted).delivered.size).to eq(1)
  end

  it "stops between two letters when the post is held in the middle of a batch" do
    others = start(make_sequence(people: Array.new(3) { make_person }), at: now - 3600)
    Records::Delivery.where(sequence_id: others.id, state: "due").update(due_at: opened - 30)
    holding = ToldTransport.new(accepted)
    allow(holding).to receive(:deliver).and_wrap_original do |original, *args, **rest|
      Work::PostHold.hold(moment)
      original.call(*args, **rest)
    end
    worker(transport: holding).dispatch_due(opened)

    expect(holding.delivered.size).to eq(1)
    expect(Records::Delivery.where(state: "due").count).to eq(4) # three not sent, and the first one's second letter
  end

  it "lets a letter that missed its window wait for the next" do
    transport = send_with(accepted, at: Time.utc(2026, 5, 12, 21))

    expect(transport.delivered).to be_empty
    expect(deliveries.first.due_at).to be_between(Time.utc(2026, 5, 13, 8), Time.utc(2026, 5, 13, 10, 30))
  end

  it "keeps to a mailbox's daily limit" do
    box = make_mailbox(daily_limit: 2)
    crowd = start(make_sequence(people: Array.new(3) { make_person }, mailbox: box), at: now - 3600)
    Records::Delivery.where(sequence_id: crowd.id, state: "due").update(due_at: opened - 30)
    sent = send_with(accepted).delivered.count { |one| one[:from] == box.address }

    expect(sent).to eq(2)
    expect(Records::Delivery.where(sequence_id: crowd.id, state: "due").where(Sequel[:due_at] > opened).min(:due_at)).to be_between(
      Time.utc(2026, 5, 13, 8),
      Time.utc(2026, 5, 13, 10, 30)
    )
  end

  it "ends the sequence with its last letter, and its figures add up all the way" do
    adds_up = lambda do
      all = figures(sequence)
      expect(all.values_at("sent", "failed", "skipped", "in_doubt", "due").sum).to eq(all["planned"])
    end
    adds_up.call
    send_with(accepted)
    adds_up.call
    send_with(accepted, at: deliveries.last.due_at)
    adds_up.call

    expect(sequence.refresh.state).to eq("ended")
  end
end

RSpec.describe Post::Patience do
  it "rides out a database that is away, and gives up in the end" do
    seconds = 0
    patience = described_class.new(seconds: 10, pause: -> { seconds += 1 }, clock: -> { seconds })
    expect(patience.ride { (seconds < 9) ? raise(Sequel::DatabaseDisconnectError, "away") : :back }).to eq(:back)

    expect { patience.ride { raise Sequel::DatabaseConnectionError, "still away" } }.to raise_error(Sequel::DatabaseConnectionError)
    expect(seconds).to be_between(19, 21)
  end
end
