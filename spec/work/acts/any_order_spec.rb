# frozen_string_literal: true

# Acts are undone in any order, also those on members, and after a change of plan.
RSpec.describe "undoing acts in any order" do
  include_context "with a plan in a few words"

  let(:at) { moment(now + 60, account: maren) }

  def act(json, *whom, moment: at) =
    Work::ChangeMany.start(Work::Act.new(json, moment), Records::Person.where(id: whom.map(&:id)), moment: moment)

  def undo(set, moment: at) = Work::TakeBack.start(Records::ChangeSet[set.id], moment: moment)

  def dump
    people = Records::Person.order(:id).map { |one| one.values.except(:version, :updated_at) }
    [people, Records.db[:people_tags].all, Records.db[:list_people].all, Records::Tag.order(:id).map(&:values)]
  end

  it "ends at the records as before, for values, tags and consent, whichever of three acts is undone first" do
    people = Array.new(2) { make_person(city: "York") }
    town = ->(city) { {"kind" => "field", "field" => "person.city", "value" => city} }
    consent = ->(said) { {"kind" => "consent", "consent" => said, "how" => "at the fair"} }
    tag = ->(name) { {"kind" => "tag", "names" => [name]} }
    rows = [[town.call("Hull"), town.call("Leeds"), town.call("Ripon")], [town.call("Hull"), town.call("York"), town.call("Hull")],
      [consent.call("yes"), consent.call("no"), consent.call("unknown")],
      [tag.call("felt"), tag.call("Felt"), {"kind" => "untag", "names" => ["felt"]}]]
    rows.each do |acts|
      before = dump
      [0, 1, 2].permutation.each do |order|
        sets = acts.map { |json| act(json, *people) }
        order.each { |n| undo(sets[n]) }
        expect(dump).to eq(before), "#{acts} undone as #{order}"
      end
    end
  end

  it "leaves the newer value until its own act is undone, and what somebody typed in between" do
    first = act({"kind" => "standing", "standing" => "client"}, person)
    second = act({"kind" => "standing", "standing" => "partner"}, person)
    expect([undo(first).kept, person.refresh.standing]).to eq([0, "partner"])
    undo(second)
    expect(person.refresh.standing).to eq("lead")

    first = act({"kind" => "field", "field" => "person.city", "value" => "Hull"}, person)
    person.refresh.update(city: "Typed")
    second = act({"kind" => "field", "field" => "person.city", "value" => "Leeds"}, person)
    expect(undo(first).kept).to eq(1)
    undo(second)
    expect(person.refresh.city).to eq("Typed")
  end

  it "deletes a tag that the act created, unless somebody uses it" do
    undo(act({"kind" => "tag", "names" => %w[fresh paint]}, person))
    expect(Records::Tag.select_map(:name)).to eq([])
    other = make_person
    set = act({"kind" => "tag", "names" => ["fresh"]}, person)
    second = act({"kind" => "tag", "names" => ["fresh"]}, other)
    undone = undo(set)
    expect([other.tags_dataset.select_map(:name), undone.act["stays"]]).to eq([["fresh"], 1])
    expect([undo(second).act["stays"], Records::Tag.count]).to eq([0, 0])
  end

  describe "on members" do
    let(:in_it) { {"sequence_id" => @sequence.id} }

    def propose_and_apply(steps, at)
      change = Work::ChangePlan.new(@sequence.refresh, moment(at))
      change.propose({steps: steps}, version: @sequence.proposal_version)
      change.effect(version: @sequence.proposal_version)
      Work::ApplyPlan.round(moment(at))
    end

    it "resumes who was paused although the plan has changed since" do
      running(letter(hello, amount: 90), letter(warm))
      set = act({"kind" => "pause", **in_it}, person)
      propose_and_apply([*PlanInput.of(@sequence), letter(cold)], now + 120)
      expect([member.plan, member.moved, member.paused_at.nil?]).to eq([2, true, false])
      expect([undo(set).kept, member.paused_at, due]).to eq([0, nil, ["Hello"]])
    end

    it "undoes a pause and a move in either order" do
      running(letter(hello, amount: 90), letter(warm))
      stood = member.values
      [[0, 1], [1, 0]].each do |order|
        acts = [{"kind" => "pause"}, {"kind" => "move_to", "step_id" => @sequence.steps.last.id}]
        sets = acts.map { |json| act({**json, **in_it}, person) }
        order.each { |n| undo(sets[n]) }
        expect(member.values).to eq(stood)
      end
    end

    it "brings back who left because of a mistaken “no”, with their letter and task, at other records of the address too" do
      twin = make_person(email: person.email)
      running(task, letter(hello, amount: 90))
      second = start(make_sequence(people: [twin], letters: [hello], mailbox: mailbox))
      round
      [{"kind" => "do_not_mail", "value" => true}, {"kind" => "consent", "consent" => "no", "how" => nil}].each do |json|
        set = act(json, person)
        expect(Records::Member.order(:id).select_map(%i[state left_reason]).uniq).to eq([%w[left no_at_address]])
        expect([Records::Task.select_map(:state), @sequence.refresh.state, second.refresh.state]).to eq([["dropped"], "ended", "ended"])
        undone = undo(set)
        expect([undone.kept, Work::StaysOut.count(undone)]).to eq([0, 0])
        expect(Records::Member.select_map(:state).uniq).to eq(["active"])
        expect([Records::Task.select_map(:state), @sequence.refresh.state, second.refresh.state]).to eq([["open"], "running", "running"])
      end
    end

    it "brings members back when each of two acts that kept them out is undone, in either order" do
      running(task, letter(hello, amount: 90))
      round
      no, consent = {"kind" => "do_not_mail", "value" => true}, {"kind" => "consent", "consent" => "no", "how" => nil}
      out, bin = {"kind" => "take_out", **in_it}, {"kind" => "bin"}
      [[no, consent], [out, no], [out, bin], [bin, no], [no, bin]].each do |acts|
        [[0, 1], [1, 0]].each do |order|
          sets = acts.map { |json| act(json, person) }
          undo(sets[order.first])
          expect(member.state).to eq("left"), "#{acts} undone as #{order}"
          undo(sets[order.last])
          expect([member.state, @sequence.refresh.state]).to eq(%w[active running]), "#{acts} undone as #{order}"
        end
      end
    end

    it "brings back who left only by the undo of a merge, when the “no” is undone that it brought to light" do
      other = make_person
      running(letter(hello, amount: 90))
      merge = Work::MergeRecords.call(other, person.refresh, {}, versions: [other.version, person.version], moment: at)
      no = act({"kind" => "do_not_mail", "value" => true}, person)
      expect(member.state).to eq("active")
      undo(merge)
      expect([member.person_id, member.state, @sequence.refresh.state]).to eq([person.id, "left", "ended"])
      undo(no)
      expect([member.state, @sequence.refresh.state, due]).to eq(["active", "running", ["Hello"]])
    end

    it "brings nobody back by the undo of an act that kept nobody out" do
      running(letter(hello, amount: 90))
      list = -> { Work::BlockAddress.put(kind: "address", value: person.email, reason: "asked by telephone", moment: at) }
      no, entry = act({"kind" => "do_not_mail", "value" => true}, person), list.call
      undo(no)
      Work::BlockAddress.take_off(entry, moment: at)
      undo(act({"kind" => "field", "field" => "person.city", "value" => "Hull"}, person))
      expect([member.state, @sequence.refresh.state]).to eq(%w[left ended])
    end

    it "leaves out, and names, who may not be written to for another reason by then" do
      running(letter(hello, amount: 90))
      set = act({"kind" => "do_not_mail", "value" => true}, person)
      Work::BlockAddress.put(kind: "address", value: person.email, reason: "asked by telephone", moment: at)
      undone = undo(set)
      expect([member.state, @sequence.refresh.state]).to eq(%w[left ended])
      expect(Work::StaysOut.sequences(undone)).to eq([{name: "Quieter rooms", state: "ended", people: 1}])
    end

    it "reopens a sequence that ended because everybody was removed or put in the bin" do
      running(letter(hello, amount: 90))
      [{"kind" => "take_out", **in_it}, {"kind" => "bin"}].each do |json|
        set = act(json, person)
        expect(@sequence.refresh.state).to eq("ended")
        undo(set)
        expect([@sequence.refresh.state, @sequence.ended_at, member.state, due]).to eq(["running", nil, "active", ["Hello"]])
      end
      expect(@sequence.events.map(&:kind)).to eq(%w[started ended reopened ended reopened])
    end

    it "leaves ended what was stopped, has reached its end date, or ended when the others finished, and names it" do
      other = make_person
      draft = make_sequence(people: [person, other], letters: [hello], mailbox: mailbox)
      running = start(draft)
      set = act({"kind" => "take_out", "sequence_id" => running.id}, person)
      round(now + 86_400)
      expect(running.refresh.state).to eq("ended")
      expect([undo(set), running.refresh.state].last).to eq("ended")
      expect(Work::StaysOut.sequences(set.refresh)).to eq([{name: "Quieter rooms", state: "ended", people: 1}])

      stopped = start(make_sequence(people: [person], letters: [hello], mailbox: mailbox))
      set = act({"kind" => "bin"}, person)
      stopped.refresh.update(state: "stopped")
      undo(set)
      expect(Work::StaysOut.sequences(set.refresh).map { |one| one[:state] }).to eq(%w[stopped])
    end
  end
end
