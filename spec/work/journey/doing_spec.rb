# frozen_string_literal: true

# Tasks, changes and hand-overs.
RSpec.describe "steps that are no letter" do
  include_context "with a plan in a few words"

  describe "a task" do
    before do
      about = {"kind" => "task_done", "outcome" => "interested"}
      running(task(id: -1, of: "owner", due_in: 2), fork(lane(about, letter(warm)), lane(nil, letter(cold)), days: nil))
    end

    it "is its owner's, waits, and forks on what came of it" do
      task = Records::Task.first
      expect(task).to have_attributes(account_id: maren.id, due_on: Date.new(2026, 5, 14), state: "open")
      expect([member.waits_for, due]).to eq(["outcome", []])
      Work::DoTask.call(task, outcome: "interested", note: "Friday", version: task.version, moment: moment(now + 60, account: maren))
      round(now + 60)
      expect(went).to eq(["Warm"])
      told = Web::HistoryWords.new(Records::Event.where(kind: "task_done").all, moment).entries.first
      expect(told.values_at(:words, :detail, :by)).to eq(["Done: Ring them", "interested: Friday", "Maren Holt"])
    end

    it "is done once, with an outcome that there is" do
      task = Records::Task.first
      done = ->(**with) { Work::DoTask.call(task, note: nil, version: task.version, moment: moment, outcome: nil, **with) }
      expect { done.call(outcome: "sang") }.to raise_error(Invalid, /no outcome/)
      done.call
      expect { done.call }.to raise_error(Invalid, /done already/)
      round
      expect(went).to eq(["Cold"])
    end

    it "is dropped when its person leaves" do
      Work::Happening.call("replied", at: now, person_id: person.id)
      expect(Records::Task.first).to have_attributes(state: "dropped", reason: "replied")
    end
  end

  describe "a hand-over" do
    let(:other) { start(make_sequence(people: [make_person], letters: [warm], mailbox: mailbox)) }

    def over(**more) = {"kind" => "hand_over", "sequence_id" => other.id, **open_hours, **more.transform_keys(&:to_s)}

    def places =
      Records::Member.where(person_id: person.id).order(:id).map { |one| [one.sequence_id == other.id, one.state, one.joined_by] }

    it "has them join the other, and leave or stay" do
      running(over, letter(cold))
      expect(places).to eq([[false, "left", "start"], [true, "active", "handed_over"]])
      expect([member.left_reason, @sequence.refresh.state]).to eq(%w[handed_over running])
      round
      expect(@sequence.refresh.state).to eq("ended")
    end

    it "passes by whoever is in it already, and is said before when the other does not run" do
      draft = make_sequence(people: [person], letters: [], mailbox: mailbox)
      Work::RunSequence.call(other, "stop", moment: moment)
      Work::PlanSequence.change(draft, {version: 1, steps: [over(stays: true), letter(cold)]}, moment: moment)
      expect(Work::ReadyCheck.new(draft.refresh, moment).call[:remarks].map { |one| one[:code] }).to eq(["not_running"])
      @sequence = start(draft)
      expect(Records::Event.first(kind: "skipped").data).to eq("reason" => "sequence_not_running")
      expect(due).to eq(["Cold"])
    end

    it "sets aside who goes round in a circle" do
      running(over(stays: true))
      3.times { |n|
        Records::Member.create(sequence_id: other.id, person_id: person.id, mailbox_id: mailbox.id, base: now, joined_at: now, status: "x",
          round: n + 5, state: "finished")
      }
      running(over(stays: true))
      expect(Records::SetAside.first(kind: "journey").reason).to include("3 times within a day")
    end
  end

  describe "changes" do
    it "moves the deal a letter would speak of, and passes by whoever has none" do
      deal = Work::ChangeDeal.create(person, {name: "Oak hall"}, moment: moment)
      running(changing("stage", {"stage" => "measured"}))
      expect(deal.refresh.stage).to eq("measured")
      deal.delete
      running(changing("stage", {"stage" => "measured"}))
      expect(Records::Event.where(kind: "skipped").map { |one| one.data["reason"] }).to eq(["no_deal"])
    end

    it "sets a status, but not over one that a colleague has set" do
      running(letter(hello), changing("status", {"status" => "won"}))
      Work::MemberStatus.set(member, "declined", at: now, account_id: maren.id)
      round
      expect(member.status).to eq("declined")
      running(letter(hello), changing("status", {"status" => "won"}))
      round
      expect(member.status).to eq("won")
    end

    it "sets aside whom it concerns when what it speaks of is retired, and goes on when somebody says so" do
      list = Work::KeepList.make("Fair", Records::Person.where(id: -1), moment: moment)
      running(letter(hello), changing("list", {"list_id" => list.id}), letter(cold))
      values = list.values.dup
      list.delete
      2.times { round }
      aside = Records::SetAside.first(kind: "journey")
      expect([aside.key.to_i, aside.reason, aside.tries]).to match([member.id, /This list is gone/, 1])
      expect([went, member.state, member.step_id]).to eq([["Hello"], "active", @sequence.steps[1].id])
      Records.db[:lists].insert(values)
      Work::TakeUp.new(aside, moment).again
      round
      expect([went, person.lists_dataset.select_map(:name)]).to eq([%w[Hello Cold], ["Fair"]])
    end
  end
end
