# frozen_string_literal: true

# Sent by hand: for ten seconds by the wall clock nothing happens, and one move takes it back.
RSpec.describe Work::StartLater, ".send_soon" do
  let(:sequence) { make_sequence(people: [make_person, make_person]) }

  def ready = Work::ReadyCheck.new(sequence.refresh, moment).call

  def send_it(**changed)
    read_back = ready.slice(:letters, :gaps, :joining, :seen)
    described_class.send_soon(sequence.refresh, version: sequence.version, moment: moment, **read_back, **changed)
  end

  # Ten seconds are over.
  def pass = Records.db[:sequences].update(undo_until: Records.server_time - 1)

  def everything = %i[members deliveries events plans sequence_events letter_texts].to_h { |table| [table, Records.db[table].count] }

  it "starts nothing before the seconds are over, whatever the clock in use says" do
    send_it
    expect(described_class.undo_seconds(sequence)).to be_between(9, 10)
    expect(described_class.round(moment(now + 86_400))).to eq(0)
    expect(described_class).to be_any_soon
    pass
    expect(described_class.round(moment)).to eq(1)
    expect(sequence.refresh).to have_attributes(state: "running", undo_until: nil, start_at: nil)
    expect(described_class).not_to be_any_soon
  end

  it "leaves nothing behind when it is taken back" do
    before = everything
    send_it
    described_class.cancel(sequence.refresh, version: sequence.version, moment: moment)
    pass_over = sequence.refresh
    expect(pass_over).to have_attributes(state: "draft", undo_until: nil, start_at: nil)
    expect(described_class.round(moment(now + 60))).to eq(0)
    expect(everything).to eq(before)
    send_it
    pass
    expect(described_class.round(moment)).to eq(1)
  end

  it "is sent once, however often it is asked for" do
    version = sequence.refresh.version
    send_it
    expect { send_it }.to raise_error(Conflict, /on its way/)
    expect { send_it(version: version) }.to raise_error(Conflict)
    pass
    described_class.round(moment)
    expect { send_it }.to raise_error(Invalid, /started already/)
    expect(sequence.members_dataset.count).to eq(2)
  end

  it "is taken off by a change meanwhile" do
    send_it
    Work::PlanSequence.change(sequence.refresh, {version: sequence.version, audience: {"people" => []}}, moment: moment)
    pass
    expect(described_class.round(moment)).to eq(0)
    expect(sequence.refresh.state).to eq("draft")
  end

  it "asks again when the selection has shrunk between reading and sending" do
    read_back = ready.slice(:letters, :gaps, :joining, :seen)
    Records::Person.first.update(consent: "no")
    expect { send_it(**read_back) }.to raise_error(Conflict) { |error| expect(error.data).to include(letters: 2) }
    expect(sequence.refresh.undo_until).to be_nil
  end

  it "cannot be taken back once it has started" do
    send_it
    version = sequence.refresh.version
    pass
    described_class.round(moment)
    expect { described_class.cancel(sequence.refresh, version: version, moment: moment) }.to raise_error(Conflict)
    expect(sequence.refresh.state).to eq("running")
  end
end
