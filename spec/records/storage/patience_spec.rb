# frozen_string_literal: true

RSpec.describe Records::Patience do
  it "rides out a database that is away, and gives up in the end" do
    seconds = 0
    patience = described_class.new(seconds: 10, pause: -> { seconds += 1 }, clock: -> { seconds }, inside: -> { false })
    expect(patience.ride { (seconds < 9) ? raise(Sequel::DatabaseDisconnectError, "away") : :back }).to eq(:back)

    expect { patience.ride { raise Sequel::DatabaseConnectionError, "still away" } }.to raise_error(Sequel::DatabaseConnectionError)
    expect(seconds).to be_between(19, 21)
  end

  it "rides out whatever says that the connection is gone, and a race that was lost" do
    [Trilogy::SyscallError::ECONNRESET.new("reset"), Trilogy::ConnectionClosed.new("closed"), Sequel::PoolTimeout.new("none free"),
      Sequel::SerializationFailure.new("deadlock"), Sequel::DatabaseLockTimeout.new("waited")].each do |error|
      tries = 0
      patience = described_class.new(pause: -> { tries += 1 }, inside: -> { false })

      expect(patience.ride { tries.zero? ? raise(error) : :back }).to eq(:back)
    end
  end

  it "begins no part of somebody's transaction again" do
    expect { described_class.new(pause: -> { raise "waited" }).ride { raise Sequel::SerializationFailure, "deadlock" } }.to raise_error(
      Sequel::SerializationFailure
    )
  end

  it "lets everything else pass" do
    expect { described_class.new(inside: -> { false }).ride { raise Sequel::UniqueConstraintViolation, "twice" } }.to raise_error(
      Sequel::UniqueConstraintViolation
    )
  end
end
