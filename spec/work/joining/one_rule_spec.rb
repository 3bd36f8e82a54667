# frozen_string_literal: true

# What concerns one rule concerns no other, and what made people join by mistake can be undone with them.
RSpec.describe "a rule for itself" do
  let(:tag) { Records::Tag.named("price list") }
  let(:list) { Records::List.create(name: "Open days", created_at: now, updated_at: now) }
  let(:maren) { make_account }
  let(:here) { moment(account: maren) }
  let(:accepted) { ToldTransport.new(Post::Outcomes::Accepted.new("250 ok")) }

  def running(kind, settings, **more)
    start(make_sequence(people: [make_person], letters: [make_letter])).tap { |sequence| rule(sequence, kind, settings, **more) }
  end

  def rule(sequence, kind, settings, **more) =
    Work::KeepRule.make(sequence, {kind: kind, settings: settings, live: true, **more}, moment: moment)

  def act(json, people, at: here) =
    Work::ChangeMany.start(Work::Act.new(json, at), Records::Person.where(id: people.map(&:id)), moment: at)

  def undo(set, at: here) = Work::TakeBack.start(Records::ChangeSet[set.id], moment: at)

  def go_round(at = now) = Work::JoinByRules.round(moment(at))

  def rounds(sequence, people) = Records::Member.where(sequence_id: sequence.id, person_id: people.map(&:id)).count

  def finished(sequence) = sequence.members_dataset.active.update(state: "finished", due_at: nil, waits_for: nil)

  describe "switched on for people whom it is true of already" do
    let(:people) { Array.new(4) { make_person(city: "Hull") } }
    let(:in_hull) { {audience: {"condition" => {"field" => "person.city", "is" => "one_of", "value" => ["Hull"]}}} }

    before do
      act({"kind" => "tag", "names" => [tag.name]}, people)
      list.put(Records::Person.where(id: people.map(&:id)))
    end

    {"tag" => :tag, "list" => :list}.each do |kind, about|
      it "has nobody join another sequence by the same #{kind}, once or once more" do
        settings = {"#{kind}_id" => public_send(about).id}
        from_now_on = running(kind, settings)
        every_time = running(kind, settings, again: "every", now_too: true)
        beside = running("filter", in_hull)
        go_round
        finished(every_time)
        expect([rounds(from_now_on, people), rounds(every_time, people), rounds(beside, people)]).to eq([0, 4, 0])

        started = make_sequence(people: [], letters: [make_letter], audience: {})
        rule(started, kind, settings, now_too: true)
        ready = Work::ReadyCheck.new(started.refresh, moment).call
        Work::StartSequence.call(started, version: started.version, letters: 0, joining: 4, seen: ready[:seen], moment: moment)
        2.times { go_round }
        expect([started, from_now_on, every_time, beside].map { |sequence| rounds(sequence, people) }).to eq([4, 0, 4, 0])
      end
    end

    it "takes them in once more only when what it is about has changed" do
      sequence = running("tag", {"tag_id" => tag.id}, again: "every", now_too: true)
      go_round
      finished(sequence)
      live = Records::JoinRule.where(sequence_id: sequence.id).first
      Work::KeepRule.change(live, {version: live.version, settings: {"tag_id" => tag.id}, again: "every"}, moment: moment)
      go_round
      expect(rounds(sequence, people)).to eq(4)
    end
  end

  describe "undoing what made people join" do
    let(:people) { Array.new(5) { make_person } }

    def joined(set) = Work::JoinedThrough.members(set.refresh, here).select_order_map(:person_id)

    it "offers to remove who joined by a mistaken tag and has had nothing, and that can be undone" do
      sequence = running("tag", {"tag_id" => tag.id})
      had = people.first
      set = act({"kind" => "tag", "names" => [tag.name]}, people)
      go_round
      expect([rounds(sequence, people), joined(set)]).to eq([5, []])
      letter = Records::Delivery.first(person_id: had.id)
      letter.update(state: "sent", sent_at: now)

      undo(set)
      expect(joined(set)).to eq(people.drop(1).map(&:id))
      removed = Work::JoinedThrough.remove(set, here)
      expect(Records::Member.active.where(sequence_id: sequence.id).select_map(:person_id)).to include(had.id)
      expect([joined(set), sequence.members_dataset.where(left_reason: "taken_out").count]).to eq([[], 4])
      undo(removed.first)
      expect(joined(set)).to eq(people.drop(1).map(&:id))
    end

    it "offers nobody who joined by hand, by another rule, or wears the tag for another reason" do
      running("tag", {"tag_id" => tag.id})
      other = running("list", {"list_id" => list.id})
      by_hand = running("tag", {"tag_id" => Records::Tag.named("other").id})
      act({"kind" => "list", "list_id" => list.id}, people.first(2))
      set = act({"kind" => "tag", "names" => [tag.name]}, people)
      Work::AddPeople.new(by_hand, {"people" => people.map(&:id)}, here).call(letters: 5)
      go_round
      act({"kind" => "untag", "names" => [tag.name]}, [people.last])
      act({"kind" => "tag", "names" => [tag.name]}, [people.last])
      undo(set)
      expect(joined(set)).to eq(people.first(4).map(&:id))
      expect([rounds(other, people), rounds(by_hand, people)]).to eq([2, 5])
    end

    it "offers them for lists, fields and filters too" do
      city = {"field" => "person.city", "is" => "one_of", "value" => ["Hull"]}
      running("filter", {audience: {"condition" => city}})
      running("field", {field: "person.standing", to: "client"})
      running("list", {list_id: list.id})
      acts = [{"kind" => "field", "field" => "person.city", "value" => "Hull"}, {"kind" => "standing", "standing" => "client"},
        {"kind" => "list", "list_id" => list.id}]
      acts.each do |json|
        set = act(json, people)
        go_round
        undo(set)
        expect([json, joined(set)]).to eq([json, people.map(&:id)])
        go_round
        expect([json, joined(set)]).to eq([json, people.map(&:id)])
      end
    end
  end
end
