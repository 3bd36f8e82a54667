# frozen_string_literal: true

RSpec.describe Work::PutAside do
  def guard(&) = described_class.guard("reaction", 7, at: now, &)

  let(:aside) { Records::SetAside.first }

  it "hands back what was worked on, and keeps nothing" do
    expect(guard { :done }).to eq(:done)
    expect(Records::SetAside.count).to eq(0)
  end

  it "keeps the reason and the tries of what could not be, and when it began" do
    guard { raise ArgumentError, "bad" }
    described_class.call("reaction", 7, Invalid.new("Characters only call this machine."), at: now + 60)

    expect(aside).to have_attributes(tries: 2, reason: "Characters only call this machine.", first_at: now, last_at: now + 60)
    expect(aside.detail).to include("Invalid")
  end

  it "says what a stack that ended and a time that ran out mean" do
    described_class.call("mail", "a", SystemStackError.new("stack level too deep"), at: now)
    described_class.call("mail", "b", Timeout::Error.new("execution expired"), at: now)

    expect(Records::SetAside.order(:id).select_map(:reason)).to eq(
      ["It is nested too deeply to be worked on.", "It took too long to work on."]
    )
  end

  it "takes messages of any bytes and any length" do
    guard { raise "\xFF\x00#{"x" * 5000}".b }

    expect(aside.reason.size).to be <= 500
    expect(aside.reason).to start_with("runtime error: ?x")
  end

  it "sets nothing aside for a database that is away, and nothing for what is no error of the thing" do
    expect { guard { raise Sequel::DatabaseDisconnectError, "gone" } }.to raise_error(Sequel::DatabaseDisconnectError)
    expect { guard { raise Interrupt } }.to raise_error(Interrupt)
    expect(Records::SetAside.count).to eq(0)
  end
end

RSpec.describe Work::Clerk do
  let(:clerk) { described_class.new(configuration.imports, Records::Owner.new(configuration)) }

  def change(name)
    people = Records::Person.dataset
    Records::ChangeSet.create(kind: "bulk", words: name, act: {kind: "tag", names: [name]}, state: "waiting", created_at: now).tap do |set|
      Records.db[:change_entries].insert(%i[change_set_id person_id], people.select(Sequel.lit("?", set.id), :id))
    end
  end

  it "sets aside what it cannot do, does the rest, and tries again when somebody says so" do
    make_person
    broken, well = change("broken"), change("well")
    allow(Work::ChangeMany).to receive(:round).and_wrap_original do |original, set, at|
      raise KeyError, "no such tag" if set.id == broken.id

      original.call(set, at)
    end
    clerk.finish(now)
    expect([broken, well].map { |set| set.refresh.state }).to eq(%w[waiting done])
    expect(Records::SetAside.first).to have_attributes(kind: "act", key: broken.id.to_s, tries: 1)

    allow(Work::ChangeMany).to receive(:round).and_call_original
    Work::TakeUp.new(Records::SetAside.first, moment).again
    clerk.finish(now)
    expect([broken.refresh.state, Records::SetAside.count]).to eq(["done", 0])
  end

  it "has a file say why it does not go on" do
    import =
      Records::Import.create(
        file_name: "fair.csv",
        file_key: "",
        format: "csv",
        bytes: 1,
        state: "taking_in",
        reading: {},
        rows: 1,
        digest: "x",
        updated_at: now,
        created_at: now
      )
    allow(Work::TakeIn).to receive(:new).and_raise(KeyError, "no such column")
    Work::Clerk.new(configuration.imports, Records::Owner.new(configuration)).finish(now)
    receiving = Work::ReceiveImport.new(configuration.imports, moment)

    expect(Web::ImportJson.write(import, receiving, moment)).to include(state: "taking_in", set_aside: "key error: no such column")
    Work::TakeUp.new(Records::SetAside.first, moment).again
    expect(Web::ImportJson.write(import, receiving, moment)[:set_aside]).to be_nil
  end
end

RSpec.describe Work::PartsState do
  it "speaks of a kind of part once, forgets what it is told to forget, and survives a file that is none" do
    path = File.join(Dir.mktmpdir, "parts.json")
    state = described_class.new(path)
    expect(state.words).to eq([])
    state.write(["clerk 1", "clerk 2", "something else"])
    expect(state.words.size).to eq(1)
    state.clear
    expect(state.words).to eq([])
    File.write(path, "{")
    expect(state.words).to eq([])
  ensure
    FileUtils.rm_rf(File.dirname(path))
  end
end
