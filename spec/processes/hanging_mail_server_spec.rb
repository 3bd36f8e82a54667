# frozen_string_literal: true

# The worker as it runs, with a mail server that takes a letter of one mailbox and never says another word.
RSpec.describe "a mail server that hangs", :processes do
  let(:stuck) { make_mailbox(address: "stuck@ternandfallow.example") }
  let(:well) { make_mailbox(address: "well@ternandfallow.example") }
  let(:opened) { Time.utc(2026, 5, 12, 10, 20) }
  let(:person) { make_person(email: "ana@copperladle.example") }
  let!(:held_up) { start(make_sequence(people: [make_person], mailbox: stuck), at: now - 3600) }
  let!(:others) { start(make_sequence(people: [person, make_person], mailbox: well), at: now - 3600) }
  let(:maildir) { Post::Maildir.new(configuration.maildir) }

  # Silent to whatever is heard once the stuck mailbox has said whom it writes to.
  def hanging_at(place)
    server =
      RudeServer.new(port: configuration.smtp_port) do |heard, line, talk|
        talk[:stuck] = line.include?("stuck@") if heard == "MAIL"
        :silence if heard == place && talk[:stuck]
      end
    yield server
  ensure
    server&.close
  end

  def state_of(sequence) = Records::Delivery.where(sequence_id: sequence.id).order(:id).select_map(:state).uniq

  before { Records::Delivery.where(state: "due").update(due_at: opened - 60) }

  it "keeps what a lane has claimed, however long one letter takes" do
    more = start(make_sequence(people: Array.new(3) { make_person }, mailbox: stuck), at: now - 3600)
    Records::Delivery.where(state: "due").update(due_at: opened - 60)
    allow(configuration).to receive(:lease_seconds).and_return(5)
    hanging_at(".") do
      with_world("worker", at: opened) do
        wait_until("a letter is on the wire") { (state_of(held_up) + state_of(more)).include?("on_wire") }
        claimed = Records::Delivery.where(state: "claimed", mailbox_id: stuck.id)
        2.times do
          lease = claimed.min(:leased_until)
          wait_until("the lease is renewed") { claimed.min(:leased_until) > lease }
        end
        expect(claimed.count).to eq(3)
      end
    end
  end

  {"RCPT" => "due", "." => "in_doubt"}.each do |place, left|
    it "holds up neither other mailboxes, nor mail, nor the clock, nor the end (silent after #{place}: #{left})" do
      hanging_at(place) do |server|
        with_world("worker", at: opened) do |children|
          wait_until("the letter is on the wire") { state_of(held_up) == ["on_wire"] }
          wait_until("the others are sent") { server.taken.size >= 2 }

          maildir.deliver("From: ana@copperladle.example\r\nMessage-ID: <1@x.example>\r\n\r\nYes please.\r\n")
          wait_until("the mail is taken in") { Records::Incoming.where(person_id: person.id).any? }

          clock.advance_to(opened + 3600)
          wait_until("the clock arrives") { clock.target.nil? }
          expect(clock.now).to eq(opened + 3600)
          expect(state_of(held_up)).to eq(["on_wire"])

          # Ended by itself, not by its watch: what the letter came to is written down.
          worker = children.pids["worker"]
          Process.kill(:TERM, worker)
          expect(Process.wait2(worker).last.exitstatus).to eq(0)
          expect(state_of(held_up)).to eq([left])
        end
      end
    end
  end
end
