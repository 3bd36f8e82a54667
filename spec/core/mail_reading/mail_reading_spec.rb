# frozen_string_literal: true

RSpec.describe Core::MailReading::Classifier do
  def kind(text = "Yes please, come by.", **headers) =
    described_class.call(headers: headers.transform_keys { |name| name.to_s.tr("_", "-") }, text: text)

  describe "Auto-Submitted (RFC 3834)" do
    it "goes before anything else" do
      expect(["auto-replied", "auto-generated; type=x", "AUTO-NOTIFIED"].map { |value| kind(auto_submitted: value) }.uniq).to eq(
        [:automatic]
      )
      expect(kind(auto_submitted: "no", subject: "Out of office")).to eq(:reply)
    end
  end

  describe "older automatic answers" do
    it "are known by their headers" do
      expect([kind(precedence: "auto_reply"), kind(x_autoreply: "yes"), kind(x_auto_response_suppress: "All")].uniq).to eq([:automatic])
    end

    it "are known by the beginning of their subject, not by words within it" do
      expect(["Out of office: Two recordings", "Automatic reply: x", "Auto-reply"].map { |subject| kind(subject: subject) }.uniq).to eq(
        [:automatic]
      )
      expect(
        ["We are out of the office chairs you sold us", "Re: an automatic reply to noise"].map { |subject| kind(subject: subject) }.uniq
      ).to eq([:reply])
    end
  end

  describe "a written no" do
    it "is the whole of a short answer" do
      expect(
        [
          "Please take me off your list.",
          "unsubscribe me, thanks",
          "Remove me",
          "STOP EMAILING ME",
          "don’t write to me again",
          "Stop contacting me."
        ].map { |text| kind(text) }.uniq
      ).to eq([:unsubscribe])
    end

    it "is not a phrase within a longer answer" do
      expect(
        ["Please do not take me off your list, I like it.", "I unsubscribed from the other one. Do come by.", ""].map { |text| kind(text) }
          .uniq
      ).to eq([:reply])
    end

    it "counts for nothing when a machine wrote it" do
      expect(kind("unsubscribe", auto_submitted: "auto-replied")).to eq(:automatic)
    end
  end
end

RSpec.describe Core::MailReading::Thread do
  describe ".candidates" do
    it "reads the parent before its ancestors (RFC 5322 3.6.4)" do
      expect(described_class.candidates(in_reply_to: "<c@x>", references: "<a@x>\r\n <b@x> <c@x>")).to eq(["c@x", "b@x", "a@x"])
    end

    it "finds none where none is named" do
      expect(described_class.candidates(in_reply_to: nil, references: nil)).to eq([])
      expect(described_class.candidates(in_reply_to: "your message of Tuesday", references: "< >")).to eq([])
    end
  end
end

RSpec.describe Core::MailReading::MachineTouch do
  describe ".machine?" do
    it "knows scanners by their name, and whoever gives none" do
      expect(
        ["practice-link-scanner/1.0", "curl/8.0", "SafeBot 2", "", nil].map { |agent| described_class.machine?(agent: agent) }.uniq
      ).to eq([true])
    end

    it "knows what was fetched before anybody asked for it" do
      expect(described_class.machine?(agent: "Mozilla/5.0", purpose: "prefetch;prerender")).to be(true)
    end

    it "takes nobody for a reader within ten seconds of sending" do
      expect([3, 9.9, 10, 60].map { |seconds| described_class.machine?(agent: "Mozilla/5.0", since_sent_seconds: seconds) }).to eq(
        [true, true, false, false]
      )
    end
  end
end
