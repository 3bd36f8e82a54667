# frozen_string_literal: true

# Who was picked, or left out, one by one stays so when two records become one, and when that is taken back.
RSpec.describe Work::PickedPeople do
  let(:kept) { make_person(email: "ana@house.example") }
  let(:gone) { make_person(email: "ana@home.example") }
  let(:third) { make_person }
  let(:all) { {"field" => "person.standing", "is" => "one_of", "value" => ["lead"]} }

  def merge = Work::MergeRecords.call(kept, gone, {}, versions: [kept.refresh.version, gone.refresh.version], moment: moment)

  def take_back(set) = Work::TakeBack.start(set, moment: moment)

  def draft(audience) = make_sequence(people: [], audience: audience)

  def reached(sequence) = moment.audience(sequence.refresh.audience).people.select_order_map(Sequel[:people][:id])

  it "writes to whoever was picked under either record, and to nobody who was left out under one" do
    picked = draft({"people" => [gone.id, third.id]})
    both = draft({"people" => [kept.id, gone.id]})
    left_out = draft({"condition" => all, "without" => [gone.id]})
    settings = {"audience" => {"condition" => all, "without" => [gone.id]}}
    rule = Work::KeepRule.make(picked, {kind: "filter", settings: settings}, moment: moment)
    texts = -> { [[picked, both, left_out].map { |one| one.refresh.audience }, rule.refresh.settings] }
    before, version = texts.call, picked.version
    set = merge
    expect([picked, both, left_out].map { |one| reached(one) }).to eq([[kept.id, third.id].sort, [kept.id], [third.id]])
    expect(rule.refresh.settings["audience"]["without"]).to eq([kept.id])
    expect(picked.refresh.version).to be > version
    take_back(set)
    expect(texts.call).to eq(before)
  end

  it "is as before when one merge followed on the other, whichever is taken back first" do
    picked = [[gone, third], [gone, kept, third], [third], [kept], [gone]].map { |some| draft({"people" => some.map(&:id)}) }
    before = picked.map { |one| one.refresh.audience }
    [[0, 1], [1, 0]].each do |order|
      sets = [merge, Work::MergeRecords.call(third.refresh, kept.refresh, {}, versions: [third.version, kept.version], moment: moment)]
      expect(picked.map { |one| reached(one) }.uniq).to eq([[third.id]])
      order.each { |n| take_back(sets[n].refresh) }
      expect(picked.map { |one| one.refresh.audience }).to eq(before), order.to_s
    end
  end

  it "is told apart again where somebody has picked more since" do
    picked = draft({"people" => [gone.id]})
    both = draft({"people" => [kept.id, gone.id]})
    set = merge
    [picked, both].each { |one| one.refresh.update(audience: {"people" => one.audience["people"] + [third.id]}) }
    take_back(set)
    expect([picked, both].map { |one| one.refresh.audience["people"].sort })
      .to eq([[gone.id, third.id].sort, [kept.id, gone.id, third.id].sort])
  end

  it "stays as somebody has said since that they are not meant" do
    picked = draft({"people" => [gone.id, third.id]})
    set = merge
    picked.refresh.update(audience: {"people" => [third.id]})
    take_back(set)
    expect(picked.refresh.audience).to eq("people" => [third.id])
  end
end
