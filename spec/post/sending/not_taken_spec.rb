# frozen_string_literal: true

RSpec.describe "a letter that is not taken, or cannot be made" do
  include_context "with a letter that is due"

  describe "when a letter is not taken" do
    let(:relaying) { Post::Outcomes::Refused.said("554 5.7.1 relaying denied", :recipient) }
    let(:away) { Post::Outcomes::Unreachable.new("connection refused") }
    let(:aside) { Records::SetAside.first(kind: "letter") }

    def untouched = [person.refresh.address_failed, Records::Member.first.state, Records::Member.first.status]

    # Everything but an unknown user, at every stage. None of it may mark an address or take a person out.
    [
      ["550 5.1.8 sender rejected", :sender],
      ["554 5.7.1 relaying denied", :recipient],
      ["550 5.7.1 spam", :end],
      ["550 policy", :end],
      ["552 5.3.4 too big", :end],
      ["552 5.2.2 mailbox full", :recipient],
      ["554 go away", :greeting],
      ["451 later", :end]
    ].each do |words, stage|
      it "is never the person's fault: #{words} (#{stage})" do
        send_with(Post::Outcomes::Refused.said(words, stage))

        expect(untouched).to eq([false, "active", "to_write"])
        # The next letter has no time before this one is out.
        expect(deliveries.map(&:step_id)).to eq([sequence.steps.first.id])
      end
    end

    it "sets it aside when asking again would not help: its member waits there, and all figures add up" do
      send_with(relaying)

      expect(deliveries.map(&:state)).to eq(%w[failed])
      expect(aside).to have_attributes(reason: a_string_including("relaying denied"), delivery_id: deliveries.first.id, tries: 1)
      expect(figures(sequence)).to include("planned" => 2, "failed" => 1, "due" => 1, "sent" => 0)
      expect(sequence.refresh.state).to eq("running")
      # The follow-up does not go to somebody who never had the first letter.
      expect(send_with(accepted, at: deliveries.last.due_at + 9 * 86_400).delivered).to be_empty
    end

    it "goes again when somebody says so, and the plan goes on" do
      send_with(relaying)
      Work::TakeUp.new(aside, moment(opened)).again

      expect(Records::SetAside.count).to eq(0)
      expect(send_with(accepted).delivered.size).to eq(1)
      expect(deliveries.map(&:state)).to eq(%w[sent due])
    end

    it "waits for its window when somebody says so at night" do
      send_with(relaying)
      Work::TakeUp.new(aside, moment(Time.utc(2026, 5, 12, 22))).again

      expect(deliveries.first.due_at).to be_between(Time.utc(2026, 5, 13, 8), Time.utc(2026, 5, 13, 10, 30))
    end

    it "is passed over when somebody says so" do
      send_with(relaying)
      Work::TakeUp.new(aside, moment(opened)).leave

      expect(deliveries.map(&:state)).to eq(%w[failed due])
      expect(Records::SetAside.count).to eq(0)
    end

    it "is nobody's question any more once the person has left" do
      send_with(relaying)
      Work::Happening.call("replied", at: opened, person_id: person.id, delivery: deliveries.first)

      expect(Records::SetAside.count).to eq(0)
      expect(deliveries.map(&:state)).to eq(%w[failed])
      expect(figures(sequence)).to include("planned" => 2, "failed" => 1, "skipped" => 1)
    end

    it "loses nothing while a mail server is away for a working day" do
      plan = sequence.plans.first
      first, *rest = plan.tree["steps"]
      timing = first["timing"].merge("to_minute" => 1260)
      plan.update(tree: plan.tree.merge("steps" => [first.merge("timing" => timing), *rest]))
      at = opened
      tries = 0
      while at < opened + 10 * 3600
        send_with(away, at: at)
        tries += 1
        expect(deliveries.first).to have_attributes(state: "due")
        at = [deliveries.first.due_at, Records::Mailbox.max(:rests_until)].compact.max
      end
      expect(tries).to be > 3
      send_with(accepted, at: at)

      expect(deliveries.first.state).to eq("sent")
      expect(Records::SetAside.count).to eq(0)
    end

    it "gives up in the end, and sets it aside" do
      Core::Sending::Tries::MOST.times do
        Records::Mailbox.dataset.update(Work::RestMailbox::AWAKE)
        send_with(away, at: deliveries.first.due_at)
      end

      expect(deliveries.map(&:state)).to eq(%w[failed])
      expect(aside.reason).to include("12 tries")
      expect(deliveries.first.due_at - opened).to be > 24 * 3600
    end

    it "tries again within its window only" do
      send_with(away, at: Time.utc(2026, 5, 12, 10, 28))

      expect(deliveries.first.due_at).to be_between(Time.utc(2026, 5, 13, 8), Time.utc(2026, 5, 13, 10, 30))
    end
  end

  describe "a mailbox whose letters fail alike" do
    let(:away) { Post::Outcomes::Unreachable.new("connection refused") }
    let(:box) { make_mailbox }
    let!(:crowd) { start(make_sequence(people: Array.new(8) { make_person }, mailbox: box), at: now - 3600) }

    before { Records::Delivery.where(sequence_id: crowd.id, state: "due").update(due_at: opened - 30) }

    def from_box(transport) = transport.delivered.count { |one| one[:from] == box.address }

    def by_sender(transport) =
      transport.tap do |told|
        allow(told).to receive(:deliver).and_wrap_original { |ask, raw, from:, to:|
          ask.call(raw, from: from, to: to).then { |told_well| (from == box.address) ? away : told_well }
        }
      end

    it "rests after five in a row, and others go on" do
      transport = by_sender(ToldTransport.new(accepted))
      worker(transport: transport).dispatch_due(opened)

      expect(from_box(transport)).to eq(5)
      expect(box.refresh).to have_attributes(rests_until: opened + 900, fails_in_row: 5, failing_words: "connection refused")
      expect(deliveries.first.state).to eq("sent")
      expect(Records::Delivery.where(sequence_id: crowd.id, state: "due").count).to eq(8)
    end

    it "rests twice as long when it fails once more" do
      worker(transport: by_sender(ToldTransport.new(accepted))).dispatch_due(opened)
      transport = by_sender(ToldTransport.new(accepted))
      worker(transport: transport).dispatch_due(opened + 901)

      expect(from_box(transport)).to eq(1)
      expect(box.refresh.rests_until).to eq(opened + 901 + 1800)
    end

    it "is woken by a letter that is taken" do
      worker(transport: by_sender(ToldTransport.new(accepted))).dispatch_due(opened)
      transport = send_with(accepted, at: opened + 901)

      expect(from_box(transport)).to be > 1
      expect(box.refresh).to have_attributes(rests_until: nil, fails_in_row: 0)
    end

    it "is woken by a person" do
      worker(transport: by_sender(ToldTransport.new(accepted))).dispatch_due(opened)
      Work::RestMailbox.wake(box.id)

      expect(from_box(send_with(accepted, at: opened + 1))).to be >= 3
    end

    it "does not rest because some addresses are none" do
      unknown = Post::Outcomes::Refused.said("550 5.1.1 user unknown", :recipient)
      expect(from_box(send_with(unknown))).to eq(8)
      expect(box.refresh.fails_in_row).to eq(0)
    end

    it "starts to count again when it fails in another way" do
      busy = Post::Outcomes::Refused.said("451 busy", :end)
      send_with(accepted, away, away, away, away, busy, busy, busy, busy)

      expect(box.refresh).to have_attributes(rests_until: nil, fails_in_row: 4)
    end
  end

  describe "a letter that cannot be made" do
    let(:others) { Array.new(3) { make_person } }
    let!(:batch) { start(make_sequence(people: [*others, odd]), at: now - 3600) }
    let(:odd) { make_person }

    before { Records::Delivery.where(sequence_id: batch.id, state: "due").update(due_at: opened - 30) }

    def batch_states = Records::Delivery.where(sequence_id: batch.id, step_id: batch.steps.first.id).order(:person_id).select_map(:state)

    it "is set aside with its reason, and the rest of the batch goes" do
      # As an older version took it.
      Records::Person.where(id: odd.id).update(email: "mailto:x@y.example")
      transport = send_with(accepted)

      expect(transport.delivered.size).to eq(4)
      expect(batch_states).to eq(%w[sent sent sent failed])
      expect(Records::SetAside.first).to have_attributes(
        delivery: have_attributes(person_id: odd.id),
        reason: a_string_including("mailto:x@y.example")
      )
      expect(send_with(accepted).delivered).to be_empty
    end

    it "takes nobody with it when the record it needs is broken" do
      original = Post::Composer.instance_method(:compose)
      allow_any_instance_of(Post::Composer).to receive(:compose) do |composer, key, **rest|
        raise SystemStackError, "stack level too deep" if rest[:to].last == odd.email

        original.bind_call(composer, key, **rest)
      end
      send_with(accepted)

      expect(batch_states).to eq(%w[sent sent sent failed])
    end

    it "is recorded as sent even when what follows from it cannot be worked out" do
      tries = 0
      allow(Work::MemberStatus).to receive(:climb).and_wrap_original do |original, member, *rest, **named|
        # With the others, and alone; then only that it is out.
        raise KeyError, "no such status" if member.person_id == odd.id && (tries += 1) < 3

        original.call(member, *rest, **named)
      end
      send_with(accepted)

      expect(batch_states).to eq(%w[sent sent sent sent])
      expect(Records::Event.where(kind: "sent", person_id: odd.id).count).to eq(1)
      expect(Records::SetAside.first.delivery.person_id).to eq(odd.id)
    end
  end
end
