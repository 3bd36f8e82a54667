# frozen_string_literal: true

RSpec.describe Core::Sieve do
  let(:reachable) do
    {
      "person.email" => "ana@york.example",
      "person.do_not_mail" => false,
      "person.address_failed" => false,
      "person.consent" => "unknown"
    }
  end

  describe ".reason_for" do
    it "is none for somebody who may be written to" do
      expect(described_class.reason_for(reachable)).to be_nil
    end

    {
      "no_address" => {
        "person.email" => " "
      },
      "do_not_mail" => {
        "person.do_not_mail" => true
      },
      "address_blocked" => {
        "person.address_blocked" => true
      },
      "address_failed" => {
        "person.address_failed" => true
      },
      "no_consent" => {
        "person.consent" => "no"
      }
    }.each do |key, record|
      it "is #{key.tr("_", " ")}" do
        expect(described_class.reason_for(reachable.merge(record)).key).to eq(key)
      end
    end

    it "is the first that fits" do
      expect(described_class.reason_for("person.email" => nil, "person.consent" => "no").key).to eq("no_address")
    end
  end

  describe ".keeping_no" do
    let(:row) do
      {"person.consent" => "yes", "person.consent_on" => Date.new(2026, 5, 1), "person.consent_how" => "a form", "person.city" => "York"}
    end

    it "lets nothing end a no, or tell another story of it" do
      expect(described_class.keeping_no(row, {"person.consent" => "no"})).to eq("person.city" => "York")
      marks = {"person.do_not_mail" => false, "person.address_failed" => false, "person.city" => "York"}
      expect(described_class.keeping_no(marks, marks.transform_values { true })).to eq("person.city" => "York")
    end

    it "lets all else through, a further no among it" do
      expect([{}, {"person.consent" => "unknown"}, {"person.consent" => "yes"}].map { |held| described_class.keeping_no(row, held) }.uniq)
        .to eq([row])
      expect(described_class.keeping_no({"person.do_not_mail" => true}, {"person.consent" => "no"})).to eq("person.do_not_mail" => true)
    end
  end

  describe ".reasons" do
    it "asks after the lasting ones about this sequence and these weeks" do
      reasons = described_class.reasons(guard: described_class::Guard.new(2, 14), sequence_id: 5)

      expect(reasons.map(&:key)).to eq(
        %w[no_address same_address do_not_mail address_blocked address_failed no_consent no_at_address written_enough already_in]
      )
      expect(reasons.last(2).map(&:condition)).to eq(
        [
          {"activity" => "had_letter", "at_least" => 2, "within" => {"amount" => 14, "unit" => "days"}},
          {"membership" => "in", "sequence_id" => 5}
        ]
      )
    end

    it "are conditions that can be asked" do
      conditions = described_class.reasons(guard: described_class::Guard.new(2, 14), sequence_id: 5).filter_map(&:condition)

      expect { conditions.each { |condition| Core::Conditions::Parser.new.parse!(condition) } }.not_to raise_error
    end
  end

  describe described_class::Guard do
    it "says its rule in words" do
      expect([described_class.new(1, 1), described_class.new(3, 30)].map(&:words)).to eq(
        ["had 1 letter in the last day already", "had 3 letters in the last 30 days already"]
      )
    end
  end

  describe ".account" do
    it "accounts for everybody exactly once" do
      account =
        described_class.account(
          described_class.reasons,
          412,
          "no_address" => 9,
          "same_address" => 6,
          "do_not_mail" => 8,
          "address_failed" => 4,
          "no_consent" => 3
        )

      expect(account[:stages].map { |stage| stage[:left] }).to eq([397, 382, 382])
      expect(account[:would_get_it] + account[:stages].sum { |stage| stage[:reasons].sum { |reason| reason[:count] } }).to eq(412)
    end

    it "names every reason, also those that keep nobody" do
      expect(
        described_class.account(described_class.reasons, 3, {})[:stages]
          .flat_map { |stage| stage[:reasons] }
          .map { |reason| reason[:count] }
      ).to eq([0] * 7)
    end
  end
end
