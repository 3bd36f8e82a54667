# frozen_string_literal: true

# Two processes say something about one address at the same moment; whichever is first, afterwards every record at it is marked as the
# records and the do-not-mail list say. `RACES=1000` for each is the large form (bench/README.md).
RSpec.describe "a no in a race", :processes do
  let(:races) { Integer(ENV.fetch("RACES", 6)) }
  let(:random) { Random.new(RSpec.configuration.seed) }
  let(:at) { moment(account: @maren) }

  before { @maren = make_account }

  # Each goes on when all are there, a few thousandths of a second apart.
  def at_once(*deeds)
    gate = Queue.new
    waits = deeds.map { random.rand(0.004) }
    threads = deeds.zip(waits).map do |deed, wait|
      Thread.new do
        gate.pop
        IO.select(nil, nil, nil, wait)
        Records::Patience.new.ride(&deed)
      end
    end
    deeds.size.times { gate << :go }
    threads.each(&:join)
  end

  # Each race has an address and a domain of its own.
  def next_address = @domain = "copperladle#{@number = @number.to_i + 1}.example"

  def address = "both@#{@domain}"

  def block(kind = "address", value = address) =
    -> { Work::BlockAddress.put(kind: kind, value: value, reason: "asked", moment: at) }

  def create = -> { Work::ChangePerson.create({"person.last_name" => "Lark", "person.email" => address}, moment: at) }

  def change(person, values) =
    -> { Work::ChangePerson.call(Records::Person[person.id], values, version: person.version, moment: at) }

  def move(person) = change(person, {"person.email" => address})

  def act(person, json) =
    -> { Work::ChangeMany.start(Work::Act.new(json, at), Records::Person.where(id: person.id), moment: at) }

  def merged
    kept, gone = make_person(email: address), make_person
    set = Work::MergeRecords.call(kept, gone, {}, versions: [kept.version, gone.version], moment: at)
    -> { Work::TakeBack.start(Records::ChangeSet[set.id], moment: at) }
  end

  def rows(*values)
    marks = -> { Work::ImportMarks.new(values, at) }
    -> { Records.db.transaction { Work::ImportNew.new(marks.call, at).make(values) } }
  end

  def row(**more) = {"person.last_name" => "Row", "person.email" => address, **more.transform_keys { |key| "person.#{key}" }}

  def other = make_person(email: "other@#{@domain}")

  def here = make_person(email: address)

  # Asked of the tables, in words of its own.
  def wrong
    Records.db.fetch(<<~SQL).all
      SELECT p.id, p.address_blocked, p.no_at_address FROM people p WHERE p.domain_fold = '#{@domain}' AND (
        p.address_blocked <> EXISTS (SELECT 1 FROM blocked_addresses b WHERE (b.kind = 'address' AND LOWER(b.value) = LOWER(p.email))
          OR (b.kind = 'domain' AND LOWER(b.value) = SUBSTRING_INDEX(LOWER(p.email), '@', -1)))
        OR p.no_at_address <> EXISTS (SELECT 1 FROM people o WHERE o.domain_fold = '#{@domain}' AND LOWER(o.email) = LOWER(p.email)
          AND (o.do_not_mail OR o.address_failed OR o.consent = 'no')))
    SQL
  end

  def pairs
    {
      "listed while made" => -> { [block, create] },
      "its domain listed while made" => -> { [block("domain", @domain), create] },
      "listed while somebody moves there" => -> { [block, move(other)] },
      "listed while it comes by a file" => -> { [block, rows(row)] },
      "listed while a merge is undone" => -> { [merged, block] },
      "taken off while made" => -> { block.call.then { |one| [-> { Work::BlockAddress.take_off(one, moment: at) }, create] } },
      "marked while made" => -> { [change(here, {"person.do_not_mail" => true}), create] },
      "marked while made, in bulk" => -> { [act(here, {"kind" => "do_not_mail", "value" => true}), create] },
      "consent refused while made" => -> { [change(here, {"person.consent" => "no"}), create, move(other)] },
      "consent refused in two files" => -> { [rows(row(consent: "no")), rows(row), create] },
      "marked while a twin is changed" => -> { [change(here, {"person.do_not_mail" => true}), change(here, {"person.city" => "Hull"})] },
      "a letter's way out while made" =>
        -> { here.id.then { |id| [-> { Work::Happening.call("unsubscribed", at: now, person_id: id) }, create] } },
      "wanted again while marked" => -> {
        one, other = here, here
        change(one, {"person.do_not_mail" => true}).call
        [-> { Work::TakeNoBack.call(one.refresh, "at the fair", moment: at) }, change(other.refresh, {"person.consent" => "no"})]
      }
    }
  end

  it "reaches every record of the address, whichever of two is first" do
    puts "    #{races} races each, seed #{RSpec.configuration.seed}" if races > 100
    pairs.each do |words, deeds|
      races.times do |n|
        next_address
        at_once(*deeds.call)
        expect(wrong).to eq([]), "#{words}, race #{n}"
      end
      expect([Work::SweepNoes.slipped, Work::SweepNoes.stale]).to eq([[], []]), words
    end
  end

  it "is one, when a mail program says it eight times at once" do
    races.times do
      next_address
      start(make_sequence(people: [here]), at: now - 3600)
      delivery = Records::Delivery.order(Sequel.desc(:id)).first
      at_once(*Array.new(8) { -> { Work::Happening.call("unsubscribed", at: now, person_id: delivery.person_id, delivery: delivery) } })
      expect(Records::Event.where(kind: "unsubscribed", person_id: delivery.person_id).count).to eq(1)
    end
  end
end
