# frozen_string_literal: true

require "mail"

RSpec.describe "sending what is due" do
  include_context "with a letter that is due"

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

  it "sends in its mailbox's hours the next day what was due after them, and not never" do
    late = make_sequence(people: [make_person], letters: [make_letter], mailbox: make_mailbox(hours_from: 480, hours_to: 600))
    late.steps.first.update(from_minute: 540, to_minute: 1320, zone: "ours")
    letter = Records::Delivery.where(sequence_id: start(late.refresh).id)
    evening = Time.utc(2026, 5, 12, 20)
    letter.update(due_at: evening)
    [evening, Time.utc(2026, 5, 13, 7)].each { |at| send_with(accepted, at: at) }
    again = letter.get(:due_at)
    expect([letter.get(:state), again]).to match(["due", a_value_between(Time.utc(2026, 5, 13, 8), Time.utc(2026, 5, 13, 9))])
    send_with(accepted, at: again)
    expect(letter.get(:sent_at)).to eq(again)
  end

  it "lets the letters of others go when somebody has had enough, whatever the mailbox's hours then" do
    box, enough, other = make_mailbox(hours_from: 480, hours_to: 1080), make_person, make_person
    both = start(make_sequence(people: [enough, other], letters: [make_letter], mailbox: box))
    Records::Delivery.where(sequence_id: both.id).update(due_at: opened - 60)
    # So that they may be written to again in the evening, when that mailbox sends nothing.
    evening = opened - (firm.guard.days - 1) * 86_400 + 9 * 3600
    written = Array.new(firm.guard.letters) { start(make_sequence(people: [enough], letters: [make_letter])) }
    Records::Delivery.where(sequence_id: written.map(&:id)).update(state: "sent", sent_at: evening)
    send_with(accepted)
    states = Records::Delivery.where(sequence_id: both.id).select_hash(:person_id, :state)
    expect(states).to eq({enough.id => "due", other.id => "sent"})
    expect(box.refresh.free_why).not_to eq("hours")
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

  it "does not send a letter with a gap, as it is written now where its plan holds no words" do
    Records::FrozenPlan.where(sequence_id: sequence.id).update(letters: nil)
    Records::Letter.first.update(body: document("Dear {{job title}}"))
    transport = send_with(accepted)

    expect(transport.delivered).to be_empty
    expect(deliveries.first).to have_attributes(state: "failed", reason: "Nothing to put in for: job title.")
  end

  it "takes somebody whose address is refused for good out, and says so on the record" do
    send_with(Post::Outcomes::Refused.said("550 no such mailbox", :recipient))

    expect(deliveries.map(&:state)).to eq(%w[failed])
    expect(person.refresh.address_failed).to be(true)
    expect(Records::Member.first.status).to eq("not_reached")
    expect(figures(sequence)).to include("planned" => 2, "failed" => 1, "skipped" => 1, "sent" => 0)
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
