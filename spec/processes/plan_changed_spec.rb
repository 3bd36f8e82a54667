# frozen_string_literal: true

# Members are moved into a changed plan, by workers that are killed while they do it.
RSpec.describe "a plan that is changed under way", :processes do
  let(:count) { 1_600 } # three slices and a bit
  let(:people) { make_people(count) }
  let(:sequence) do
    draft = make_sequence(people: [], letters: [make_letter, make_letter], mailbox: make_mailbox(daily_limit: 2000))
    draft.update(audience: {"people" => people})
    start(draft)
  end

  # At one instant.
  def done
    Records.db.transaction do
      moved = sequence.members_dataset.where(plan: 2)
      told = Records::Event.where(sequence_id: sequence.id, kind: "plan_moved").count
      [moved.count, told, Records::Delivery.where(member_id: moved.select(:id), state: "due").count]
    end
  end

  it "takes everybody along once, whoever is killed meanwhile" do
    steps = PlanInput.of(sequence)
    steps.first["amount"] = 3
    change = Work::ChangePlan.new(sequence, moment)
    change.propose({steps: steps}, version: 0)
    with_world("worker") do |children|
      change.effect(version: 1)
      wait_until("some are moved") { done.first.positive? }
      Process.kill(:KILL, children.pids["worker"])
      # Whole slices: who is moved has a letter with its new time, and is told of.
      some = done
      expect(some).to eq([some.first] * 3)
      wait_until("another worker moves the others") do
        children.look_after
        done.first == count
      end
    end
    expect(done).to eq([count] * 3)
    expect(Records::Delivery.where(sequence_id: sequence.id).min(:due_at)).to be > now + 2 * 86_400
    expect(Records::SetAside.count).to eq(0)
  end
end
