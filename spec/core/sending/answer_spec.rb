# frozen_string_literal: true

RSpec.describe Core::Sending::Answer do
  def answer(words, stage = :recipient, **rest) = described_class.new(words, stage: stage, **rest)

  describe "#about_address?" do
    about = {
      "550 5.1.1 <ana@x.example>: user unknown" => :recipient,
      "550 5.1.1 <x>: Recipient address rejected: User unknown in relay recipient table" => :recipient,
      "550-5.1.1 The account does not exist.\n550 5.1.1 Try again" => :recipient,
      "501 5.1.3 bad recipient address syntax" => :recipient,
      "556 5.1.10 null MX" => :recipient,
      "551 5.1.6 has moved" => :end,
      "550 User unknown" => :recipient,
      "550 No such user here" => :end,
      "553 unknown recipient" => :recipient,
      "550 5.0.0 mailbox not found" => :recipient,
      "550 5.1.0 no such person" => :recipient
    }
    about.each { |words, stage| it("says so of “#{words}”") { expect(answer(words, stage)).to be_about_address } }

    # Each of these is somebody else's fault: the sender's, the server's, the letter's, or nobody's.
    other = [
      "550 5.1.7 sender address rejected",
      "550 5.1.8 sender domain not found",
      "554 5.7.1 relaying denied",
      "550 5.7.1 User unknown to our policy service",
      "550 5.7.1 looks like spam",
      "552 5.2.2 mailbox full",
      "550 mailbox full, user unknown to have space",
      "552 5.3.4 too big",
      "550 blocked, no such user may write",
      "550 Requested action not taken: mailbox unavailable",
      "550 5.1.0 sender unknown",
      "554 no",
      "450 4.1.1 user unknown for now",
      "451 unknown user lookup failed",
      "421 unknown user",
      "user unknown",
      "5501 user unknown",
      "550 5.1.1.7 is an address of a computer",
      ""
    ]
    other.each { |words| it("says nothing of the kind of “#{words}”") { expect(answer(words)).not_to be_about_address } }

    it "listens only where a server can know" do
      stages = described_class::STAGES.select { |stage| answer("550 5.1.1 user unknown", stage).about_address? }

      expect(stages).to eq(%i[recipient end report])
    end

    it "reads a report by its status, and by its words where that says nothing" do
      expect(answer("smtp; whatever", :report, enhanced: "5.1.1")).to be_about_address
      expect(answer("550 user unknown", :report, enhanced: "5.0.0")).to be_about_address
      expect(answer("Host or domain name not found. Name service error", :report, enhanced: "5.4.4")).to be_about_address
      expect(answer("550 user unknown", :report, enhanced: "5.7.1")).not_to be_about_address
      expect(answer("connection timed out", :report, enhanced: "5.4.4")).not_to be_about_address
    end
  end

  describe "#for_good?" do
    it "is true where asking again with this letter would not help" do
      expect(answer("554 5.7.1 spam", :end)).to be_for_good
      expect(answer("552 5.3.4 too big", :text)).to be_for_good
    end

    it "is false for now, for a full mailbox, and where it is us who are turned away" do
      ["451 later", "552 5.2.2 full", "552 mailbox full", "452 over quota"].each do |words|
        expect(answer(words)).not_to be_for_good, words
      end
      %i[greeting hello sender].each { |stage| expect(answer("554 5.7.1 go away", stage)).not_to be_for_good, stage.to_s }
    end
  end

  it "takes nothing but a real 2xx for a yes" do
    expect(["250 ok", "250", "251-a\n251 b"].map { |words| answer(words, :end).accepted? }).to all(be(true))
    expect(["2500 ok", "25O ok", "ok 250", "354 go on", "", "199 x", "\xFF250".b].map { |words| answer(words, :end).accepted? }).to all(
      be(false)
    )
  end

  it "tells failures that are alike from others" do
    expect(answer("451 4.3.0 busy").key).to eq(answer("451 4.7.1 later").key)
    expect(answer("451 busy").key).not_to eq(answer("451 busy", :end).key)
  end
end

RSpec.describe Core::Sending::Tries do
  it "spreads tries over more than a day (RFC 5321 4.5.4.1)" do
    pauses = (1...described_class::MOST).map { |tries| described_class.pause_after(tries) }

    expect(pauses.sum).to be_between(24 * 3600, 48 * 3600)
    expect(pauses.first).to eq(300)
    expect(described_class.pause_after(described_class::MOST)).to be_nil
  end
end

RSpec.describe Core::Sending::Rest do
  it "begins with the fifth failure alike and doubles up to four hours" do
    minutes = (1..12).map { |row| described_class.seconds(row)&./(60) }

    expect(minutes).to eq([nil, nil, nil, nil, 15, 30, 60, 120, 240, 240, 240, 240])
    expect(described_class.seconds(10_000)).to eq(4 * 3600)
  end
end
