# frozen_string_literal: true

# People who join by themselves, with two clerks at it at once, one of them killed.
RSpec.describe "people who join by themselves", :processes do
  let(:count) { 1_600 } # three slices and a bit
  let(:people) { make_people(count) }
  let(:tag) { Records::Tag.named("price list") }
  let(:sequence) do
    draft = make_sequence(people: [make_person])
    Work::KeepRule.make(draft, {kind: "tag", settings: {tag_id: tag.id}, live: true, again: "every"}, moment: moment)
    start(draft)
  end

  def put_tag_on(ids) = Records::BulkInsert.call(:people_tags, ids.map { |id| {person_id: id, tag_id: tag.id} })

  # At one instant.
  def done
    Records.db.transaction do
      joined = Records::Event.where(sequence_id: sequence.id, kind: "joined").exclude(data: nil).all.count { |event| event.data["rule"] }
      [Records::Member.where(sequence_id: sequence.id).exclude(rule_id: nil).count, joined, count - Records::Stirred.count]
    end
  end

  it "join once, whoever is killed while they take them in" do
    sequence
    with_world("worker") do |children|
      put_tag_on(people)
      wait_until("some have joined") { done.first.positive? }
      Process.kill(:KILL, children.pids["worker"])
      # Whole slices: who has joined is told of, and waits no more.
      some = done
      expect(some).to eq([some.first] * 3)
      wait_until("another worker takes the others in") do
        children.look_after
        done.first == count
      end
    end
    expect(done).to eq([count] * 3)
    expect(Records::Member.where(sequence_id: sequence.id).exclude(round: 1).count).to eq(0)
  end

  it "stay in nothing when their records are put in the bin at the same moment" do
    sequence
    some = people.first(500)
    put_tag_on(some)
    bin = Work::Act.new({"kind" => "bin"}, moment)
    acts = [-> { Work::JoinByRules.round(moment) until Records::Stirred.empty? },
      -> { some.each_slice(100) { |ids| Work::ChangeMany.start(bin, Records::Person.where(id: ids), moment: moment) } }]
    acts.map { |act| Thread.new { act.call } }.each(&:join)
    binned = Records::Person.exclude(deleted_at: nil).select(Sequel[:people][:id])
    expect([Records::Person.exclude(deleted_at: nil).count, Records::Member.active.where(person_id: binned).count]).to eq([500, 0])
  end

  it "join once, however many clerks take them in beside each other" do
    sequence
    put_tag_on(people)
    clerks = Array.new(3) { Thread.new { Work::JoinByRules.round(moment) until Records::Stirred.empty? } }
    clerks.each(&:join)
    expect(done).to eq([count] * 3)
    expect(Records::Member.where(sequence_id: sequence.id).group_and_count(:person_id).having { count.function.* > 1 }.all).to eq([])
    expect(Records::SetAside.count).to eq(0)
  end
end
