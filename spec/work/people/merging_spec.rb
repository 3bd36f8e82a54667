# frozen_string_literal: true

RSpec.describe "two records of one person" do
  let(:maren) { make_account(name: "Maren Holt") }
  let(:at) { moment(account: maren) }

  describe "likely doubles" do
    def pairs = Records::LikelyDoubles.find.map { |pair| [pair.first_id, pair.second_id, pair.reason] }

    it "are found by address, name and company, and phone, each pair once" do
      company = make_company
      ana = make_person(email: "ana.lark@house.example", first_name: "Ana", last_name: "Lark", company_id: company.id)
      other = make_person(email: "analark+fair@house.example", first_name: "Ana", last_name: "Lark", company_id: company.id)
      bo = make_person(email: nil, first_name: "Bo", last_name: "Reyes", phone: "01632 960 115")
      phone = make_person(first_name: "B.", last_name: "Reyes", phone: "+44 1632 960115")
      make_person(email: "ana.lark@elsewhere.example", first_name: "Ana", last_name: "Lark")

      expect(pairs).to eq([[ana.id, other.id, "address"], [bo.id, phone.id, "phone"]])
      Records.db[:not_doubles].insert(first_id: ana.id, second_id: other.id)
      expect(pairs.map(&:last)).to eq(["phone"])
    end
  end

  describe "merging two records" do
    let(:kept) { make_person(first_name: "Ana", last_name: "Lark", email: "ana@house.example", city: nil) }
    let(:gone) { make_person(first_name: "A.", last_name: "Lark", email: "ana@home.example", city: "Hull", do_not_mail: true) }

    def merge(values = {"person.city" => "Hull"}) =
      Work::MergeRecords.call(kept, gone, values, versions: [kept.version, gone.version], moment: at)

    before do
      gone.add_tag(Records::Tag.named("press"))
      Work::ChangeDeal.create(gone, {name: "Hall"}, moment: at)
      Work::Happening.call("note", at: now, person_id: gone.id, data: {text: "rang"})
      @sequence = start(make_sequence(people: [kept, make_person(email: "x@y.example")]))
      Records::Member.create(
        sequence_id: @sequence.id,
        person_id: gone.id,
        mailbox_id: make_mailbox.id,
        base: now,
        joined_at: now,
        status: "sent",
        state: "active"
      )
    end

    it "keeps history, deals, memberships, tags and addresses of both, and a no of either" do
      merge

      expect(kept.refresh).to have_attributes(city: "Hull", do_not_mail: true)
      expect([kept.tags.map(&:name), kept.deals.map(&:name), kept.other_addresses.map(&:email)]).to eq(
        [["press"], ["Hall"], ["ana@home.example"]]
      )
      expect(Records::Event.where(person_id: kept.id, kind: "note").count).to eq(1)
      expect(Records::Member.where(person_id: kept.id).select_map(%i[state round])).to contain_exactly(["left", 1], ["left", 2])
      expect(Records::Person.kept.where(id: gone.id).count).to eq(0)
      expect(history(kept)).to include("Merged with another record of the same person")
    end

    it "is taken back whole, but for what somebody has changed since" do
      set = merge
      before = Records::Event.where(kind: "note").get(:person_id)
      Work::TakeBack.start(set, moment: at)

      expect([before, Records::Event.where(kind: "note").get(:person_id)]).to eq([kept.id, gone.id])
      expect(kept.refresh).to have_attributes(city: nil, do_not_mail: false)
      expect([kept.tags, kept.deals, kept.other_addresses, gone.refresh.deals.size, gone.deleted_at]).to eq([[], [], [], 1, nil])
      again = Work::MergeRecords.call(kept, gone, {}, versions: [kept.version, gone.version], moment: at)
      change_person(kept, {"person.city" => "Ripon"}, at)
      expect([Work::TakeBack.start(again, moment: at).kept, kept.refresh.city, gone.refresh.deleted_at]).to eq([0, "Ripon", nil])
      picked = Work::MergeRecords.call(kept, gone, {"person.city" => "Hull"}, versions: [kept.version, gone.version], moment: at)
      change_person(kept, {"person.city" => "Leeds"}, at)
      expect([Work::TakeBack.start(picked, moment: at).kept, kept.refresh.city, kept.other_addresses]).to eq([1, "Leeds", []])
    end

    it "works for names of every alphabet, there and back" do
      %w[Đorđe Łukasz Øyvind Ħal דוד Aná].each do |name|
        pair = Array.new(2) { make_person(first_name: name, city: name) }
        set = Work::MergeRecords.call(*pair, {"person.city" => name * 2}, versions: [1, 1], moment: at)
        expect([pair.first.refresh.city, Work::TakeBack.start(set, moment: at).kept, pair.first.refresh.city]).to eq([name * 2, 0, name])
      end
    end

    it "cannot be taken back when a record has been emptied" do
      set = merge
      Records.db[:people].where(id: gone.id).update(deleted_at: now - 40 * 86_400)
      Work::PutInBin.empty_old(at)
      expect { Work::TakeBack.start(set, moment: at) }.to raise_error(Conflict) { |error| expect(error.code).to eq(:emptied_since) }
    end

    it "refuses when one of the two has changed, or both are one" do
      expect { Work::MergeRecords.call(kept, gone, {}, versions: [kept.version, 99], moment: at) }.to raise_error(Conflict)
      expect { Work::MergeRecords.call(kept, kept, {}, versions: [1, 1], moment: at) }.to raise_error(Invalid)
    end
  end
end
