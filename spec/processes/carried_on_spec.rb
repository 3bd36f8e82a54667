# frozen_string_literal: true

# Members whose time has come, with workers that are killed while they carry them on.
RSpec.describe "members that are carried on", :processes do
  let(:count) { 1_600 } # three slices and a bit
  let(:people) { make_people(count) }
  let(:sequence) do
    draft = make_sequence(people: [], letters: [])
    draft.update(audience: {"people" => people})
    at_once = {"unit" => "minutes", "from_minute" => 0, "to_minute" => 1440, "days" => "any"}
    steps = [
      {"kind" => "change", "what" => "tag", "to" => {"names" => ["carried"]}, "amount" => 5, **at_once},
      {"kind" => "task", "words" => "Ring them", "waits" => false, "amount" => 0, **at_once},
      {"kind" => "letter", "letter_id" => make_letter.id, **at_once, "amount" => 30, "unit" => "days"}
    ]
    Work::PlanSequence.change(draft, {version: draft.version, steps: steps}, moment: moment)
    start(draft.refresh)
  end

  def told = Records::Event.where(sequence_id: sequence.id, kind: "step_done").group_and_count(:step_id).map { |row| row[:count] }

  # At one instant.
  def done = Records.db.transaction { [told, worn, Records.db[:tasks].count, Records::Delivery.count] }

  def worn = Records.db[:people_tags].count

  it "come to their next step once, and all of what a step is, or none of it, is done for each" do
    sequence
    with_world("worker", at: now + 3600) do |children|
      wait_until("some are carried on") { told.any? }
      Process.kill(:KILL, children.pids["worker"])
      # Whole slices: what is told is done, and for nobody the half of it.
      some = done
      expect(some).to eq([[some.last, some.last], *Array.new(3, some.last)])
      wait_until("another worker carries them on") do
        children.look_after
        worn == count
      end
    end
    expect(done).to eq([[count, count], count, count, count])
    expect(Records::Member.where(sequence_id: sequence.id, due_at: nil, state: "active", waits_for: "time").count).to eq(count)
    expect(Records::SetAside.count).to eq(0)
  end
end
