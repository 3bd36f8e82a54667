# frozen_string_literal: true

require "yaml"

RSpec.describe Core::Conditions::Sentence do
  def say(json, **names) = described_class.new(names: names).say(Core::Conditions::Parser.new.parse!(json))

  def field(name, is, value = nil) = {"field" => name, "is" => is, "value" => value}.compact

  let(:york) { field("person.city", "one_of", ["York"]) }

  it "says everyone, and nobody" do
    expect([nil, {"all" => []}, {"any" => []}].map { |json| say(json) }).to eq(["everyone", "everyone", "everyone who is nobody"])
  end

  it "reads aloud as a person would say it, two hundred times" do
    named = ->(key, label, type, **rest) do
      Core::Fields::Field.new(key: "person.x_#{key}", label: label, type: type, uses: %i[condition], custom_id: 1, **rest)
    end
    own = [
      named.call("seats", "Seats", :number),
      named.call("budget", "Budget", :money),
      named.call("vip", "VIP", :flag, phrase: "is marked “VIP”"),
      named.call("paint", "Paint", :text),
      named.call("measured", "Measured on", :date),
      named.call("rooms", "Rooms", :choices, choices: {"hall" => "hall", "bar" => "bar"})
    ]
    parser = Core::Conditions::Parser.new(Core::Fields::Standard.catalogue.with(own))
    names = {letters: {1 => "Spring letter"}, sequences: {2 => "Quieter rooms"}, lists: {3 => "Fair 2026"}, owners: {4 => "Petra Lund"},
             statuses: {"read" => "has opened"}}
    table = YAML.safe_load_file("spec/fixtures/sentences.yml")

    expect(table.size).to be > 200
    table.each { |row| expect(described_class.new(names: names).say(parser.parse!(row["of"]))).to eq(row["say"]) }
  end

  describe "fields" do
    {
      "everyone who is in York, Leeds or Hull" => ["person.city", "one_of", %w[York Leeds Hull]],
      "everyone who is in York" => ["person.city", "one_of", ["York"]],
      "everyone whose job title contains “head”" => ["person.job_title", "contains", "head"],
      "everyone whose job title starts with “head”" => ["person.job_title", "starts_with", "head"],
      "everyone who has no address" => ["person.email", "empty"],
      "everyone who asked not to be written to" => ["person.do_not_mail", "yes"],
      "everyone who is tagged press and felt" => ["person.tags", "all_of", %w[press felt]],
      "everyone who is a former client" => ["person.standing", "one_of", ["former_client"]],
      "everyone whose room was fitted in the last 2 months" => ["person.fitted_on", "in_last", {"amount" => 2, "unit" => "months"}],
      "everyone whose room was fitted in the next week" => ["person.fitted_on", "in_next", {"amount" => 1, "unit" => "weeks"}],
      "everyone whose room was fitted before 12 May 2026" => ["person.fitted_on", "before", "2026-05-12"],
      "everyone whose room was fitted after 12 May 2026" => ["person.fitted_on", "after", "2026-05-12"],
      "everyone whose room was fitted on 12 May 2026" => ["person.fitted_on", "on", "2026-05-12"],
      "everyone whose room was fitted between 1 May 2026 and 12 May 2026" => ["person.fitted_on", "between", %w[2026-05-01 2026-05-12]],
      "everyone whose birthday is in May or June" => ["person.birthday", "month_is", [5, 6]],
      "everyone whose birthday comes round in the next 7 days" => ["person.birthday", "yearly_in_next", 7],
      "everyone whose birthday came round in the last day" => ["person.birthday", "yearly_in_last", 1]
    }.each do |sentence, test|
      it(sentence) { expect(say(field(*test))).to eq(sentence) }
    end
  end

  describe "names for numbers" do
    it "says colleagues, lists, letters and sequences by name" do
      expect(
        say(
          {
            "all" => [
              field("person.owner", "one_of", [2, "me"]),
              {"activity" => "clicked", "letter_id" => 5, "within" => {"amount" => 1, "unit" => "days"}}
            ]
          },
          owners: {
            2 => "Petra Lund"
          },
          letters: {
            5 => "Winter letter"
          }
        )
      ).to eq("everyone who is looked after by Petra Lund or me and clicked in “Winter letter” in the last day")
      expect(say(field("person.lists", "one_of", [4]), lists: {4 => "Spring fair"})).to eq("everyone who is on the list “Spring fair”")
    end

    it "keeps the number of what is gone" do
      expect(say(field("person.owner", "one_of", [9]))).to eq("everyone who is looked after by colleague 9")
      expect(say({"membership" => "in", "sequence_id" => 3})).to eq("everyone who is in “sequence 3”")
    end
  end

  describe "activity" do
    it "says how often, where and when" do
      expect(say({"activity" => "opened", "at_least" => 3, "within" => {"amount" => 7, "unit" => "days"}})).to eq(
        "everyone who opened any letter at least 3 times in the last 7 days"
      )
      expect(
        say(
          {"activity" => "clicked", "letter_id" => 1, "sequence_id" => 2, "link" => "https://a.example"},
          letters: {
            1 => "First"
          },
          sequences: {
            2 => "Rooms"
          }
        )
      ).to eq("everyone who clicked in “First” of “Rooms” at the link https://a.example")
    end

    it "says what did not happen in words of its own" do
      expect(say({"not" => {"activity" => "had_letter", "within" => {"amount" => 90, "unit" => "days"}}})).to eq(
        "everyone who had no letter in the last 90 days"
      )
      expect(say({"not" => {"activity" => "replied"}})).to eq("everyone who has not replied to any letter")
    end
  end

  describe "memberships and deals" do
    it "says sequence, status and step" do
      expect(
        say(
          {"membership" => "in", "sequence_id" => 2, "status" => %w[read curious], "step" => 3},
          sequences: {
            2 => "Rooms"
          },
          statuses: {
            "read" => "has opened",
            "curious" => "has clicked"
          }
        )
      ).to eq("everyone who is in “Rooms” with the status has opened or has clicked at step 3")
      expect(say({"not" => {"membership" => "was_in"}})).to eq("everyone who was never in any sequence")
    end

    it "says what is asked of a deal within it" do
      expect(say({"deals" => {}})).to eq("everyone who has a deal")
      expect(say({"deals" => field("deal.name", "contains", "those who wait")})).to eq(
        "everyone who has a deal whose name contains “those who wait”"
      )
      expect(
        say(
          {
            "deals" => {
              "all" => [field("deal.stage", "one_of", ["proposal"]), field("deal.value", "between", [100_000, 250_050])]
            },
            "at_least" => 2
          }
        )
      ).to eq("everyone who has at least 2 deals, each of which is at proposal and is worth between £1,000 and £2,500.50")
    end
  end

  describe "together" do
    it "keeps apart what belongs together" do
      expect(say({"all" => [{"any" => [york, field("company.type", "one_of", ["school"])]}, field("person.email", "empty")]}))
        .to eq("everyone (who is in York or whose company type is school) and who has no address")
    end

    it "says an exception as one" do
      expect(
        say(
          {
            "all" => [
              field("person.standing", "one_of", ["lead"]),
              {"not" => {"activity" => "replied", "within" => {"amount" => 90, "unit" => "days"}}},
              {"not" => field("person.tags", "one_of", ["rebuild planned"])}
            ]
          }
        )
      ).to eq("everyone who is a lead and has not replied to any letter in the last 90 days, except anyone who is tagged rebuild planned")
    end

    it "says an exception that stands first as one as well, and one that stands alone as what is not so" do
      expect(say({"not" => york})).to eq("everyone who is not in York")
      expect(say({"all" => [{"not" => york}]})).to eq("everyone who is not in York")
      expect(say({"all" => [{"not" => york}, field("person.email", "empty")]})).to eq(
        "everyone who has no address, except anyone who is in York"
      )
    end
  end
end
