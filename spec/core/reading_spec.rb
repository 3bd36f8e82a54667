# frozen_string_literal: true

RSpec.describe Core::MailReading do
  def kind(text = "Yes please, come by.", **headers) = described_class::Classifier.call(headers: headers.transform_keys { |name| name.to_s.tr("_", "-") }, text: text)

  it "follows Auto-Submitted (RFC 3834) before anything else" do
    expect(kind(auto_submitted: "auto-replied")).to eq(:automatic)
    expect(kind(auto_submitted: "auto-generated; type=x")).to eq(:automatic)
    expect(kind(auto_submitted: "no", subject: "Out of office")).to eq(:reply)
  end

  it "knows older automatic answers" do
    expect(kind(precedence: "auto_reply")).to eq(:automatic)
    expect(kind(subject: "Out of office: Two recordings")).to eq(:automatic)
    expect(kind(subject: "We are out of the office chairs you sold us")).to eq(:reply)
  end

  it "takes a written no for a no, and a longer answer for an answer" do
    expect(kind("Please take me off your list.")).to eq(:unsubscribe)
    expect(kind("unsubscribe me, thanks")).to eq(:unsubscribe)
    expect(kind("Please do not take me off your list, I like it.")).to eq(:reply)
  end

  it "reads the parent before its ancestors (RFC 5322 3.6.4)" do
    expect(described_class::Thread.candidates(in_reply_to: "<b@x>", references: "<a@x> <b@x>")).to eq(["b@x", "a@x"])
    expect(described_class::Thread.candidates(in_reply_to: nil, references: nil)).to eq([])
  end

  it "tells scanners from people" do
    touch = described_class::MachineTouch
    expect(touch.machine?(agent: "practice-link-scanner/1.0")).to be(true)
    expect(touch.machine?(agent: "Mozilla/5.0", since_sent_seconds: 3)).to be(true)
    expect(touch.machine?(agent: "Mozilla/5.0", since_sent_seconds: 60)).to be(false)
  end
end

RSpec.describe Core::Tracking::Token do
  subject(:tokens) { described_class.new("s" * 32) }

  it "reads what it wrote" do
    expect(tokens.read(tokens.write(:click, "key-_1", 3))).to eq([:click, "key-_1", 3])
    expect(tokens.read(tokens.write(:unsubscribe, "key"))).to eq([:unsubscribe, "key", nil])
  end

  it "reads nothing that was changed anywhere" do
    token = tokens.write(:click, "abc", 0)
    token.length.times do |i|
      changed = token.dup.tap { |copy| copy[i] = (copy[i] == "x") ? "y" : "x" }
      expect(tokens.read(changed)).to be_nil, "letter #{i} of #{token}"
    end
    expect(described_class.new("t" * 32).read(token)).to be_nil
    expect(tokens.read(nil)).to be_nil
  end
end

RSpec.describe Core::Sieve do
  it "gives the first reason that fits one record, or none" do
    record = {"person.email" => "ana@york.example", "person.do_not_mail" => false, "person.address_failed" => false, "person.consent" => "unknown"}

    expect(described_class.reason_for(record)).to be_nil
    expect(described_class.reason_for(record.merge("person.consent" => "no")).key).to eq("no_consent")
    expect(described_class.reason_for(record.merge("person.email" => nil, "person.consent" => "no")).key).to eq("no_address")
  end

  it "accounts for everybody exactly once" do
    account = described_class.account(described_class.reasons, 412, "no_address" => 9, "same_address" => 6, "do_not_mail" => 8, "address_failed" => 4, "no_consent" => 3)

    expect(account[:stages].map { |stage| stage[:left] }).to eq([397, 382, 382])
    expect(account[:would_get_it] + account[:stages].sum { |stage| stage[:reasons].sum { |reason| reason[:count] } }).to eq(412)
  end
end

RSpec.describe Core::Fold do
  it "forgives case, accents and stray white space" do
    expect(described_class.call("  Zoë  MÅNELØKKE\t")).to eq("zoe maneløkke")
    expect(described_class.call("STRASSE")).to eq(described_class.call("straße"))
    expect(described_class.call(" \n ")).to be_nil
  end

  it "changes nothing the second time" do
    PropCheck.forall(PropCheck::Generators.string).with_config(n_runs: 300) do |text|
      once = described_class.call(text)
      raise "#{text.inspect} folds on" unless described_class.call(once) == once
    end
  end
end

RSpec.describe Core::Conditions::Parser do
  def problem(json)
    described_class.new.parse!(json)
    nil
  rescue Invalid => error
    [error.code, error.at]
  end

  it "says what is wrong and where" do
    expect(problem({"all" => [{"field" => "person.shoe", "is" => "one_of", "value" => ["9"]}]})).to eq([:unknown_field, "condition.all[0].field"])
    expect(problem({"field" => "person.city", "is" => "in_last", "value" => 3})).to eq([:condition_unclear, "condition.is"])
    expect(problem({"field" => "person.city", "is" => "one_of", "value" => []})).to eq([:condition_unclear, "condition.value"])
    expect(problem({"field" => "person.standing", "is" => "one_of", "value" => ["king"]})).to eq([:condition_unclear, "condition.value[0]"])
    expect(problem({"activity" => "sneezed"})).to eq([:condition_unclear, "condition.activity"])
    expect(problem({"any" => {}})).to eq([:condition_unclear, "condition.any"])
    expect(problem({"field" => "person.fitted_on", "is" => "before", "value" => "31/31/26"})).to eq([:condition_unclear, "condition.value"])
  end

  it "goes ten levels deep and no further" do
    deep = ->(levels) { (1...levels).inject({"activity" => "opened"}) { |inner, _| {"not" => inner} } }

    expect(problem(deep.call(10))).to be_nil
    expect(problem(deep.call(11)).first).to eq(:condition_unclear)
  end

  it "reads aloud" do
    tree = described_class.new.parse!({"all" => [{"field" => "person.standing", "is" => "one_of", "value" => ["lead"]}, {"field" => "person.city", "is" => "one_of", "value" => %w[York Leeds Hull]},
      {"not" => {"activity" => "replied", "within" => {"amount" => 90, "unit" => "days"}}}, {"not" => {"field" => "person.tags", "is" => "one_of", "value" => ["rebuild planned"]}}]})

    expect(Core::Conditions::Sentence.new.say(tree)).to eq("everyone who is a lead and is in York, Leeds or Hull and has not replied to any letter in the last 90 days but not if one is tagged rebuild planned")
  end
end
