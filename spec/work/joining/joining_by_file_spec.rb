# frozen_string_literal: true

RSpec.describe "a file" do
  include_context "with files that are brought in"

  describe "by which people join a sequence" do
    let(:sequence) { start(make_sequence(people: [make_person])) }
    let(:text) { "Email,City\n#{Array.new(6) { |n| "p#{n}@ladle.example,York" }.join("\n")}\np0@ladle.example,Hull\n" }

    before { Work::KeepRule.make(sequence, {kind: "file", settings: {}, live: true, again: "every"}, moment: at) }

    def joined = Records::Member.where(sequence_id: sequence.id).exclude(rule_id: nil)

    def go_round = Work::JoinByRules.round(at)

    it "has each join once, and takes all back but for who has had something" do
      import = bring(text)
      2.times { go_round }
      expect([joined.count, joined.select_map(:round).uniq]).to eq([6, [1]])
      had = joined.first
      Records::Delivery.where(member_id: had.id).update(state: "sent", sent_at: now)
      set = Work::TakeBack.start(import.change_set, moment: at)
      there = Records::Person.kept.where(id: joined.select(:person_id)).select_map(:id)
      expect([set.kept, there]).to eq([1, [had.person_id]])
      expect(joined.active.select_map(:id)).to eq([had.id])
      go_round
      expect(joined.count).to eq(6)
    end

    it "has nobody join once it was undone, and lets them join by the next file" do
      import = bring(text)
      Work::TakeBack.start(import.change_set, moment: at)
      go_round
      expect(joined.count).to eq(0)
      again = bring(text.sub("Hull", "Ripon"))
      go_round
      expect([joined.count, again.change_set.refresh.state]).to eq([6, "done"])
    end
  end
end
