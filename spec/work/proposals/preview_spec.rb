# frozen_string_literal: true

# The preview of a change against what then happens, member by member. `CHANGES=2000` tries more of them (bench/README.md).
RSpec.describe "the preview of a change" do
  include Foretold

  before do
    Records::Firm.save(guard: nil)
    maren = make_account
    @mailbox = make_mailbox(account_id: maren.id, daily_limit: 100_000)
    @letters = Array.new(3) { make_letter }
    @people = Array.new(5) do |n|
      make_person(standing: n.even? ? "lead" : "client", birthday: (Date.new(1980, 5, 12 + n) if n < 4), owner_id: maren.id)
    end
    @other = start(make_sequence(people: [make_person], letters: [@letters.first], mailbox: @mailbox))
    @transport = ToldTransport.new(Post::Outcomes::Accepted.new("250 ok"))
  end

  def compared(seed)
    told = foretold(Random.new(seed)) or return
    told.each do |id, one|
      one.before = one.before.transform_values { |at| [at, @at].max }
      one.after = one.after.transform_values { |at| [at, @at].max }
      words = "member #{id} in the change #{seed}: #{one.kind}, #{one.before} -> #{one.after}"
      expect(one.went.keys.sort).to eq(one.after.keys.sort), "#{words}, but #{one.went}"
      one.went.each { |step_id, at| expect((at - one.after[step_id]).abs).to be < 60, "#{words}, but #{one.went}" }
      expect(Core::Journey::Difference.between(one.before, one.went)).to eq(one.kind), words unless one.kind == "lane_gone"
    end
    told.each_value.map(&:kind)
  end

  it "announces for each member what then happens, whoever inserts, removes, moves or retimes steps" do
    seeds = Random.new(RSpec.configuration.seed)
    wanted, kinds = Integer(ENV.fetch("CHANGES", 50)), []
    tried = ENV["CHANGE"] ? [Integer(ENV["CHANGE"])] : Enumerator.produce { seeds.rand(1_000_000_000) }
    tried.lazy.filter_map { |seed| kept_apart { compared(seed) } }.first(ENV["CHANGE"] ? 1 : wanted).each { |some| kinds.concat(some) }
    puts kinds.tally if ENV["CHANGES"]
    expect(kinds.tally.keys).to include("more", "fewer", "untouched") unless ENV["CHANGE"]
  end

  def kept_apart
    found = nil
    Records.db.transaction(savepoint: true, rollback: :always) { found = yield }
    found
  end
end
