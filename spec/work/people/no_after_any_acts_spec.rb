# frozen_string_literal: true

RSpec.describe "a no belongs to the address" do
  let!(:maren) { make_account }
  let(:at) { moment(account: maren) }

  def act(json, *people)
    Work::ChangeMany.start(Work::Act.new(json, at), Records::Person.where(id: people.map(&:id)), moment: at)
  end

  describe "after any acts in any order" do
    let(:emails) { Array.new(4) { |n| "shared#{n / 3}#{"+#{n}" if n.odd?}@copperladle.example" } }
    let(:random) { Random.new(RSpec.configuration.seed) }

    def pick(list) = list.sample(random: random)

    def any_act(people)
      person = pick(people)
      case random.rand(12)
      when 0 then change_person(person, {"person.email" => pick(emails)}, at)
      when 1 then edit(person, {"person.do_not_mail" => random.rand(2).zero?})
      when 2 then edit(person, {"person.consent" => pick(%w[yes no unknown])})
      when 3 then act({"kind" => "consent", "consent" => pick(%w[yes no]), "how" => "told us"}, *people.sample(3, random: random))
      when 4 then act({"kind" => pick(%w[bin restore])}, person)
      when 5 then Work::Happening.call(pick(%w[unsubscribed bounced complained]), at: now, person_id: person.id)
      when 6 then merge(people)
      when 7 then Work::ChoosePlusTags.call(pick(%w[same different]), moment: at)
      when 8 then list_or_not
      when 9 then Work::TakeNoBack.call(person.refresh, "at the fair", moment: at) if person.email && !person.refresh.deleted_at
      else take_back
      end
    end

    # An ordinary edit that would end a no is refused.
    def edit(person, values)
      change_person(person, values, at)
    rescue Invalid => error
      raise unless error.code == :says_no
    end

    def list_or_not
      entries = Records::BlockedAddress.all
      return Work::BlockAddress.take_off(pick(entries), moment: at) if entries.size > 2

      kind, value = pick([["address", pick(emails)], ["domain", "copperladle.example"]])
      Work::BlockAddress.put(kind: kind, value: value, reason: "asked", moment: at)
    rescue Sequel::ValidationFailed
      nil # it is on the list already
    end

    def merge(people)
      kept, gone = people.map(&:refresh).reject(&:deleted_at).sample(2, random: random)
      return unless gone

      Work::MergeRecords.call(kept, gone, {}, versions: [kept.version, gone.version], moment: at)
    end

    def take_back
      set = pick(Records::ChangeSet.where(state: "done").all) or return
      Work::TakeBack.start(set, moment: at)
    end

    def listed
      at = Records::SameAddress.column
      list = Records::BlockedAddress.where(kind: "address").select_map(Records::SameAddress.blocked_column)
      domains = Records::BlockedAddress.where(kind: "domain").select_map(:value_fold)
      ->(row) { list.include?(row[at]) || domains.include?(row[:email_fold].split("@").last) }
    end

    it "marks exactly those at whose address a record says no, or whose address is on the list" do
      people = Array.new(6) { make_person(email: pick(emails)) }
      120.times do |n|
        begin
          any_act(people)
        rescue Invalid => error
          raise unless error.code == :nothing_said
        end
        expect([Work::SweepNoes.slipped, Work::SweepNoes.stale]).to eq([[], []]), "after #{n + 1} acts"
        rows = Records.db[:people].exclude(email_fold: nil).all
        said = Records::Person.saying_no.select_map(Records::SameAddress.column).to_set
        wanted = rows.to_h { |row| [row[:id], said.include?(row[Records::SameAddress.column])] }
        expect(rows.to_h { |row| [row[:id], row[:no_at_address]] }).to eq(wanted), "after #{n + 1} acts"
        expect(rows.to_h { |row| [row[:id], row[:address_blocked]] }).to eq(rows.to_h { |row| [row[:id], listed.call(row)] })
      end
    end
  end
end
