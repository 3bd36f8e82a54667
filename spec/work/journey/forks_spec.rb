# frozen_string_literal: true

# Lanes: what people do, and what holds of them.
RSpec.describe "a sequence with different ways on" do
  include_context "with a plan in a few words"

  describe "waiting for a reaction" do
    before do
      running(letter(hello), fork(lane({"kind" => "opened"}, letter(warm)), lane(nil, letter(cold))))
      round
    end

    it "takes the lane at once, not at the next round" do
      expect([went, member.waits_for]).to eq([["Hello"], "reaction"])
      Work::Touch.call("opened", sent, at: now + 3600, by_machine: false)
      expect(due).to eq(["Warm"])
      expect(events).to include("lane_taken")
    end

    it "counts no machine" do
      Work::Touch.call("opened", sent, at: now + 3600, by_machine: true)
      expect([due, member.waits_for]).to eq([[], "reaction"])
    end

    it "goes on in the other lane when the time is over, and a reaction after that moves nobody" do
      expect(member.due_at).to be_between(now + 4 * 86_400, now + 6 * 86_400)
      round(member.due_at)
      expect(went).to eq(%w[Hello Cold])
      expect { Work::Touch.call("opened", sent, at: now + 10 * 86_400, by_machine: false) }.not_to(change { due })
    end

    it "does not move anybody while it is paused but by a lane, and sends nothing" do
      Work::RunSequence.call(@sequence, "pause", moment: moment)
      Work::Touch.call("opened", sent, at: now + 3600, by_machine: false)
      round(now + 86_400)
      expect([went, due]).to eq([["Hello"], ["Warm"]])
    end
  end

  it "takes the lane for an answer instead of letting its person out, and lets out whoever answers elsewhere" do
    running(letter(hello), fork(lane({"kind" => "replied"}, task(waits: false)), lane(nil, letter(cold))), letter(warm, amount: 100))
    round
    happen("replied")
    expect([member.state, Records::Task.select_map(:words), due]).to eq(["active", ["Ring them"], ["Warm"]])
    happen("replied", at: now + 7200)
    expect([member.state, member.left_reason]).to eq(%w[left replied])
  end

  it "does in the lane of a failed address what can still be done, and passes its letters by" do
    running(letter(hello), fork(lane({"kind" => "bounced"}, changing("tag", {"names" => ["gone away"]}), letter(cold)), lane(nil)))
    round
    happen("bounced")
    round(now + 7200)
    expect([person.tags_dataset.select_map(:name), went, member.state]).to eq([["gone away"], ["Hello"], "finished"])
  end

  describe "a lane for a failed address below another lane" do
    def bounce_fork(*lane_steps)
      above = [lane({"kind" => "clicked"}, letter(warm)), lane({"kind" => "opened"}, letter(cold))]
      fork(*above, lane({"kind" => "bounced"}, *lane_steps), lane(nil))
    end

    it "is taken at once; its tasks are waited for, and letters there and behind it are skipped" do
      running(letter(hello), bounce_fork(letter(cold), task(waits: true)), letter(warm))
      round
      happen("bounced")
      expect([member.state, member.waits_for, Records::Task.select_map(:state), went]).to eq(["active", "outcome", ["open"], ["Hello"]])
      # Whatever else is told of the address does not take them out again.
      make_person(email: person.email)
      Work::NoAtAddress.follow_people([person.id], moment)
      expect(member.state).to eq("active")
      Work::DoTask.call(Records::Task.first, outcome: nil, note: nil, version: 1, moment: moment(now + 7200))
      round(now + 7200)
      expect([member.state, went]).to eq(["finished", ["Hello"]])
      skipped = Records::Event.where(kind: "skipped").order(:id).map { |event| event.data["reason"] }
      expect(skipped).to eq(%w[address_failed address_failed])
    end

    it "is taken although they opened before, while a click was waited for, and not when they went another way before" do
      running(letter(hello), bounce_fork(task(waits: true)))
      round
      happen("opened", at: now + 1800)
      happen("bounced", at: now + 3600)
      lanes = Records::Event.where(kind: "lane_taken").map { |event| Records::Lane[event.data["lane"]] }
      expect(lanes.map(&:test)).to eq([{"kind" => "bounced"}])
    end

    it "lets them leave when they have gone another way, and when somebody there says no" do
      running(letter(hello), bounce_fork(task(waits: true)), letter(warm, amount: 9000))
      round
      happen("bounced")
      act = Work::Act.new({"kind" => "do_not_mail", "value" => true}, moment)
      Work::ChangeMany.start(act, Records::Person.where(id: person.id), moment: moment)
      expect([member.state, member.left_reason]).to eq(%w[left no_at_address])
    end

    it "takes out people who have gone on in another lane" do
      running(letter(hello), fork(lane({"kind" => "opened"}, letter(warm, amount: 9000)), lane({"kind" => "bounced"}, task)))
      round
      happen("opened")
      happen("bounced", at: now + 7200)
      expect([member.state, member.left_reason]).to eq(%w[left bounced])
    end
  end

  it "takes a click for a person's only when no machine gives itself away within ten seconds" do
    running(letter(hello), fork(lane({"kind" => "clicked", "link" => "https://rooms.example"}, letter(warm)), lane(nil)))
    round
    click = ->(at, **how) { Work::Touch.call("clicked", sent, at: at, link: "https://rooms.example", by_machine: false, **how) }
    click.call(now + 100)
    expect([due, member.due_at]).to eq([[], now + 110])
    click.call(now + 105, by_machine: true, link: "https://rooms.example/trap")
    round(now + 200)
    expect([went, member.waits_for]).to eq([["Hello"], "reaction"])
    click.call(now + 2 * 86_400)
    round(now + 2 * 86_400 + 10)
    expect(went).to eq(%w[Hello Warm])
  end

  it "asks lanes in their order: an opening waits for the limit as long as a click may still come" do
    running(letter(hello), fork(lane({"kind" => "clicked"}, letter(warm)), lane({"kind" => "opened"}, letter(cold))))
    round
    happen("opened")
    expect([due, member.waits_for]).to eq([[], "reaction"])
    round(member.due_at)
    expect(went).to eq(%w[Hello Cold])
  end

  it "parts by what holds of somebody at that moment, also what the step before has changed" do
    lanes = [lane(client, letter(warm)), lane(nil, letter(cold))].each { |one| one["test"] &&= {"condition" => one["test"]} }
    running(changing("standing", {"standing" => "client"}), fork(*lanes, days: nil))
    round
    expect([went, person.refresh.standing]).to eq([["Warm"], "client"])
    story = Web::HistoryWords.new(Records::Event.where(person_id: person.id, kind: "field_changed").all, moment).entries.first
    expect(story.values_at(:words, :detail)).to eq(["Standing: lead → client", "by “Quieter rooms”"])
  end

  it "tells who is at which step, who has been there, and who went which lane" do
    running(letter(hello), fork(lane({"kind" => "opened"}, letter(warm, amount: 60)), lane(nil, letter(cold))))
    round
    Work::Touch.call("opened", sent, at: now + 60, by_machine: false)
    first, fork, warm, = @sequence.steps.map(&:id)
    lane = Records::Lane.where(fork_id: fork).order(:position).get(:id)
    asked = ->(**about) do
      moment.audience("condition" => {"membership" => "was_in", **about.transform_keys(&:to_s)}).people.select_map(:id)
    end
    expect([asked.call(step_id: first), asked.call(step_id: warm), asked.call(lane_id: lane), asked.call(lane_id: lane + 1)])
      .to eq([[person.id], [person.id], [person.id], []])
    expect(asked.call(membership: "in", step_id: first)).to eq([])
    expect(asked.call(membership: "in", step_id: warm)).to eq([person.id])
  end
end
