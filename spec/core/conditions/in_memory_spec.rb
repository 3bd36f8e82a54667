# frozen_string_literal: true

RSpec.describe Core::Conditions::InMemory do
  let(:now) { Time.utc(2026, 5, 12, 8) }
  let(:today) { Date.new(2026, 5, 12) }

  def match?(json, record) = described_class.new(now: now, today: today, me: 7).match?(Core::Conditions::Parser.new.parse!(json), record)

  def field(name, is, value = nil) = {"field" => name, "is" => is, "value" => value}.compact

  def span(amount, unit = "days") = {"amount" => amount, "unit" => unit}

  describe "groups" do
    let(:york) { field("person.city", "one_of", ["York"]) }
    let(:lead) { field("person.standing", "one_of", ["lead"]) }
    let(:client_in_york) { {"person.city" => "York", "person.standing" => "client"} }

    it "takes everybody for no condition, nobody for an empty choice" do
      expect([nil, {"all" => []}, {"any" => []}].map { |json| match?(json, {}) }).to eq([true, true, false])
    end

    it "needs all, any, or the opposite" do
      expect(match?({"all" => [york, lead]}, client_in_york)).to be(false)
      expect(match?({"any" => [york, lead]}, client_in_york)).to be(true)
      expect(match?({"all" => [york, {"not" => lead}]}, client_in_york)).to be(true)
    end
  end

  describe "text" do
    it "forgives case, accents and white space" do
      expect(match?(field("person.city", "one_of", ["YORK "]), "person.city" => "Yörk")).to be(true)
    end

    it "finds words within, or at the beginning" do
      expect(match?(field("person.city", "contains", "or"), "person.city" => "York")).to be(true)
      expect(match?(field("person.city", "starts_with", "or"), "person.city" => "York")).to be(false)
      expect(match?(field("person.city", "starts_with", "yo"), "person.city" => "York")).to be(true)
    end

    it "is empty when only white space stands there, and passes no other test then" do
      record = {"person.city" => " "}

      expect(match?(field("person.city", "empty"), record)).to be(true)
      expect(match?(field("person.city", "contains", "y"), record)).to be(false)
      expect(match?({"not" => field("person.city", "contains", "y")}, record)).to be(true)
    end
  end

  describe "colleagues" do
    it "knows me, and others by number" do
      expect(match?(field("person.owner", "one_of", ["me"]), "person.owner" => 7)).to be(true)
      expect(match?(field("person.owner", "one_of", ["me", 8]), "person.owner" => 8)).to be(true)
      expect(match?(field("person.owner", "one_of", ["me"]), "person.owner" => 8)).to be(false)
    end

    it "matches nobody where there is none" do
      expect(match?(field("person.owner", "one_of", ["me"]), "person.owner" => nil)).to be(false)
      expect(match?(field("person.owner", "empty"), "person.owner" => nil)).to be(true)
    end
  end

  describe "several values" do
    it "has one of them, or all of them" do
      record = {"person.tags" => %w[Press Felt]}

      expect(match?(field("person.tags", "one_of", %w[felt oak]), record)).to be(true)
      expect(match?(field("person.tags", "all_of", %w[felt oak]), record)).to be(false)
      expect(match?(field("person.tags", "all_of", %w[press felt]), record)).to be(true)
    end

    it "is empty without any" do
      expect([nil, []].map { |tags| match?(field("person.tags", "empty"), "person.tags" => tags) }).to eq([true, true])
      expect(match?(field("person.lists", "empty"), "person.lists" => [3])).to be(false)
    end
  end

  describe "amounts" do
    def worth?(is, value, pence) = match?({"deals" => field("deal.value", is, value)}, "deals" => [{"deal.value" => pence}])

    it "compares them, ends included only where it says between" do
      expect(
        [worth?("equals", 100, 100), worth?("more_than", 100, 100), worth?("less_than", 100, 100), worth?("between", [100, 200], 200)]
      ).to eq([true, false, false, true])
    end

    it "knows none where nothing stands" do
      expect([worth?("less_than", 100, nil), worth?("empty", nil, nil)]).to eq([false, true])
    end
  end

  describe "flags" do
    it "holds only for yes" do
      expect([true, false, nil].map { |flag| match?(field("person.do_not_mail", "yes"), "person.do_not_mail" => flag) }).to eq(
        [true, false, false]
      )
    end
  end

  describe "days" do
    def fitted?(is, value, date) = match?(field("person.fitted_on", is, value), "person.fitted_on" => date)

    it "counts today as the first of the last, and of the next, days" do
      expect([fitted?("in_last", span(1), today), fitted?("in_last", span(1), today - 1)]).to eq([true, false])
      expect([fitted?("in_next", span(2), today + 1), fitted?("in_next", span(2), today + 2)]).to eq([true, false])
    end

    it "leaves out the day itself before and after it, and takes in both ends between" do
      expect([fitted?("before", "2026-05-12", today), fitted?("after", "2026-05-12", today)]).to eq([false, false])
      expect([fitted?("before", "2026-05-13", today), fitted?("after", "2026-05-11", today), fitted?("on", "2026-05-12", today)]).to eq(
        [true, true, true]
      )
      expect(fitted?("between", %w[2026-05-12 2026-05-12], today)).to be(true)
    end

    it "asks for months of any year" do
      expect([fitted?("month_is", [4, 5], Date.new(1999, 5, 31)), fitted?("month_is", [4], Date.new(1999, 5, 1))]).to eq([true, false])
    end

    it "meets a birthday in any year, over the turn of one, and on 28 February for those born on the 29th" do
      born = ->(asked_on, days, date) do
        described_class.new(now: now, today: asked_on).match?(
          Core::Conditions::Parser.new.parse!(field("person.birthday", "yearly_in_next", days)),
          "person.birthday" => date
        )
      end

      expect(born.call(today, 7, Date.new(1980, 5, 18))).to be(true)
      expect(born.call(today, 7, Date.new(1980, 5, 19))).to be(false)
      expect(born.call(Date.new(2026, 12, 30), 5, Date.new(1980, 1, 3))).to be(true)
      expect(born.call(Date.new(2027, 2, 28), 1, Date.new(1980, 2, 29))).to be(true)
      expect(born.call(Date.new(2028, 2, 28), 1, Date.new(1980, 2, 29))).to be(false)
    end

    it "looks back over birthdays too" do
      expect(match?(field("person.birthday", "yearly_in_last", 7), "person.birthday" => Date.new(1980, 5, 6))).to be(true)
      expect(match?(field("person.birthday", "yearly_in_last", 7), "person.birthday" => Date.new(1980, 5, 5))).to be(false)
    end
  end

  describe "what people did" do
    let(:opened) { {kind: "opened", at: now - 3600, letter_id: 3, sequence_id: 1} }

    it "counts times, and how long ago" do
      record = {"events" => [opened, opened.merge(at: now - 40 * 86_400)]}

      expect(match?({"activity" => "opened", "at_least" => 2}, record)).to be(true)
      expect(match?({"activity" => "opened", "at_least" => 2, "within" => span(30)}, record)).to be(false)
    end

    it "counts neither what machines did nor what has yet to come" do
      expect(match?({"activity" => "opened"}, "events" => [opened.merge(by_machine: true), opened.merge(at: now + 60)])).to be(false)
    end

    it "may ask for one letter, one sequence, one link" do
      record = {"events" => [opened.merge(kind: "clicked", link: "https://a.example")]}

      expect(%w[letter_id sequence_id].zip([3, 1]).map { |name, id| match?({"activity" => "clicked", name => id}, record) }).to eq(
        [true, true]
      )
      expect(match?({"activity" => "clicked", "letter_id" => 4}, record)).to be(false)
      expect(%w[https://a.example https://b.example].map { |link| match?({"activity" => "clicked", "link" => link}, record) }).to eq(
        [true, false]
      )
    end

    it "did not happen where nothing is known" do
      expect(match?({"activity" => "replied"}, {})).to be(false)
      expect(match?({"not" => {"activity" => "replied"}}, {})).to be(true)
    end
  end

  describe "places in sequences" do
    let(:record) do
      {
        "memberships" => [
          {sequence_id: 1, state: "active", status: "written", step: 2, step_id: 12, been: [11], lanes: [5]},
          {sequence_id: 2, state: "left", status: "answered", step: 4, step_id: 24, been: [21, 22], lanes: []}
        ]
      }
    end

    it "tells who is in from who was" do
      expect(
        [match?({"membership" => "in", "sequence_id" => 2}, record), match?({"membership" => "was_in", "sequence_id" => 2}, record)]
      ).to eq([false, true])
      expect(match?({"membership" => "in"}, record)).to be(true)
    end

    it "tells at which step somebody is from where they were, and which lane they went" do
      at = ->(kind, id) { match?({"membership" => kind, "step_id" => id}, record) }
      expect([at.call("in", 12), at.call("in", 11), at.call("in", 24)]).to eq([true, false, false])
      expect([at.call("was_in", 12), at.call("was_in", 11), at.call("was_in", 24), at.call("was_in", 13)]).to eq([true, true, true, false])
      expect([5, 6].map { |lane| match?({"membership" => "was_in", "lane_id" => lane}, record) }).to eq([true, false])
    end

    it "asks for statuses and for the step that comes next" do
      expect(match?({"membership" => "in", "status" => %w[written read]}, record)).to be(true)
      expect(match?({"membership" => "in", "status" => ["answered"]}, record)).to be(false)
      expect([1, 2, 3].map { |step| match?({"membership" => "was_in", "step" => step}, record) }).to eq([false, true, false])
    end
  end

  describe "deals" do
    let(:record) { {"deals" => [{"deal.stage" => "proposal", "deal.value" => 100}, {"deal.stage" => "lost", "deal.value" => 900}]} }

    it "asks that one and the same deal fits all that is said" do
      both = {"all" => [field("deal.stage", "one_of", ["proposal"]), field("deal.value", "more_than", 500)]}

      expect(match?({"deals" => both}, record)).to be(false)
      expect(match?({"deals" => {"any" => both["all"]}, "at_least" => 2}, record)).to be(true)
    end

    it "asks for any deal at all" do
      expect([match?({"deals" => {}}, record), match?({"deals" => nil}, {"deals" => []})]).to eq([true, false])
    end
  end
end
