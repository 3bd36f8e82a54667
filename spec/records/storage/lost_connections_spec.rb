# frozen_string_literal: true

RSpec.describe Records::LostConnections do
  def lost?(error) = Records.db.send(:disconnect_error?, error, {})

  it "takes whatever goes wrong on the wire for a connection that is gone" do
    [
      Trilogy::SyscallError::ECONNRESET.new("reset"),
      Trilogy::SyscallError::EPIPE.new("pipe"),
      Trilogy::EOFError.new("end"),
      Trilogy::ConnectionClosed.new("closed"),
      Trilogy::SynchronizationError.new,
      Trilogy::BaseConnectionError.new("killed", 1927),
      Trilogy::ProtocolError.new("server has gone away", 2006)
    ].each { |error| expect(lost?(error)).to be(true), error.inspect }
  end

  it "keeps a connection over which only a question failed" do
    [
      Trilogy::TimeoutError.new("lock wait timeout", 1205),
      Trilogy::ProtocolError.new("duplicate", 1062),
      Trilogy::QueryError.new("syntax", 1064)
    ].each { |error| expect(lost?(error)).to be(false), error.inspect }
  end
end

RSpec.describe Records::TakingTurns, :processes do
  it "lets one at a time, and the next one when the first is gone" do
    inside = Queue.new
    go_on = Queue.new
    first = Thread.new { described_class.with("spec") { inside << true && go_on.pop && :first } }
    inside.pop
    expect(described_class.with("spec") { :second }).to be_nil
    expect(described_class.with("another") { :other }).to eq(:other)
    go_on << true
    expect(first.value).to eq(:first)

    expect { described_class.with("spec") { raise "ends badly" } }.to raise_error("ends badly")
    expect(described_class.with("spec") { :again }).to eq(:again)
  end
end
