# frozen_string_literal: true

# A worker killed at any instruction leaves each letter sent once, still due, or in doubt.
RSpec.describe "a worker that is killed", :processes do
  let(:people) { Array.new(8) { make_person } }
  let!(:sequence) { start(make_sequence(people: people), at: now - 3600) }
  let(:first_step) { sequence.steps.first.id }
  let(:after_the_window_opened) { Time.utc(2026, 5, 12, 10, 20) }

  def first_letters = Records::Delivery.where(sequence_id: sequence.id, step_id: first_step)

  # In doubt, and whether the post office has the letter: what the place of death allows.
  {
    claimed: {in_doubt: 0, received: 0},
    before_wire: {in_doubt: 1, received: 2},
    half_way: {in_doubt: 1, received: 2},
    after_wire: {in_doubt: 1, received: 3},
    recorded: {in_doubt: 1, received: 3},
    taken: {in_doubt: 0, received: 8},
    told: {in_doubt: 0, received: 8}
  }.each do |place, left|
    it "#{place.to_s.tr("_", " ")}: nobody gets a letter twice, nobody is lost, and what is in doubt is listed" do
      # Late letters wait for a new window; here they are due at once.
      first_letters.update(due_at: after_the_window_opened - 60)
      with_world("post-office", at: after_the_window_opened) do
        status = run_worker(KILL_AT: place)
        expect(status.termsig).to eq(Signal.list["KILL"])
        expect(received.values.sum).to eq(left[:received])

        run_out_leases
        expect(run_worker).to be_success

        expect(received.values).to all(eq(1))
        counts = first_letters.group_and_count(:state).as_hash(:state, :count)
        expect(counts).to eq({"sent" => 8 - left[:in_doubt], "in_doubt" => left[:in_doubt]}.reject { |_, count| count.zero? })
        sent = first_letters.where(state: "sent").select_map(:person_id)
        expect(received.keys).to include(*Records::Person.where(id: sent).select_map(:email))
        expect(Records::Event.where(kind: "sent").count).to eq(sent.size)
        on = Records::Member.where(sequence_id: sequence.id, step_id: sequence.steps.last.id)
        expect(on.select_map(:person_id)).to match_array(sent)
      end
    end
  end

  it "lets two workers fill up what a mailbox sends in a day, and no more" do
    Records::Mailbox.where(id: sequence.sender["mailbox_id"]).update(daily_limit: 5)
    first_letters.update(due_at: after_the_window_opened - 60)
    with_world("post-office", at: after_the_window_opened) do
      Array.new(3) { Thread.new { run_worker } }.each(&:join)
      expect(received.values).to eq([1] * 5)
      expect(first_letters.group_and_count(:state).as_hash(:state, :count)).to eq("sent" => 5, "due" => 3)
    end
  end

  it "lets two workers share the work without sending anything twice" do
    first_letters.update(due_at: after_the_window_opened - 60)
    with_world("post-office", at: after_the_window_opened) do
      statuses = Array.new(2) { Thread.new { run_worker } }.map(&:value)

      expect(statuses).to all(be_success)
      expect(received.values).to eq([1] * 8)
      expect(first_letters.select_map(:state).uniq).to eq(["sent"])
    end
  end
end
