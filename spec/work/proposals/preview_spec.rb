# frozen_string_literal: true

# The preview of a change against what then happens, member by member. `CHANGES=2000` tries more of them (bench/README.md), `PLAN=n` those
# of one plan.
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

  let(:changes_of_a_plan) { 5 }

  def compare(told, seed)
    told.each do |id, one|
      before, after = [one.before, one.after].map { |steps| steps.transform_values { |at| [at, @at].max } }
      words = "member #{id}, PLAN=#{seed}: #{one.kind}, #{before} -> #{after}, but #{one.went}"
      expect(one.went.keys.sort).to eq(after.keys.sort), words
      one.went.each { |step_id, at| expect((at - after[step_id]).abs).to be < 60, words }
      expect(Core::Journey::Difference.between(before, one.went)).to eq(one.kind), words unless one.kind == "lane_gone"
    end
    told.each_value.map(&:kind)
  end

  # @return [Array<Array<String>>] what each change of one plan meant for whom
  def changed(seed)
    kinds = []
    Records.db.transaction(savepoint: true, rollback: :always) do
      each_foretold(Random.new(seed), changes_of_a_plan) { |told| kinds << compare(told, seed) }
    end
    kinds
  end

  it "announces for each member what then happens when steps are inserted, removed, moved or retimed" do
    seeds, wanted, kinds = Random.new(RSpec.configuration.seed), Integer(ENV.fetch("CHANGES", 50)), []
    next changed(Integer(ENV["PLAN"])) if ENV["PLAN"]

    kinds.concat(changed(seeds.rand(1_000_000_000))) while kinds.size < wanted
    puts "#{kinds.size} changes: #{kinds.flatten.tally}" if ENV["CHANGES"]
    expect(kinds.flatten).to include("more", "fewer", "untouched")
  end
end
