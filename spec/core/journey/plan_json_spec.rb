# frozen_string_literal: true

RSpec.describe Core::Journey::PlanJson do
  def back(plan) = described_class.read(JSON.parse(JSON.generate(described_class.write(plan))), number: plan.number)

  def refused(json)
    described_class.read(json)
    nil
  rescue Invalid => error
    [error.at, error.message]
  end

  it "comes back as it was, whatever is in it" do
    PropCheck.forall(PropCheck::Generators.choose(0..10_000_000)).with_config(n_runs: 200) do |seed|
      plan = RandomJourneys.new(seed).plan
      again = back(plan)
      raise "another plan" unless described_class.write(again) == JSON.parse(JSON.generate(described_class.write(plan)))
    end
  end

  letter = {"kind" => "letter", "id" => 1, "letter_id" => 4}
  {
    "a fork without lanes" => [[{"kind" => "fork", "id" => 1}], "steps[0].lanes", "This fork has no lane."],
    "two otherwises" => [[{"kind" => "fork", "id" => 1, "lanes" => [{"id" => 1}, {"id" => 2}]}], "steps[0].lanes",
      "A fork has one “otherwise” at most."],
    "a lane about what comes later" => [
      [{"kind" => "fork", "id" => 2, "lanes" => [{"id" => 1, "test" => {"kind" => "opened", "step_id" => 1}}]}, letter],
      "steps",
      "A lane asks about a step that does not come before it."
    ],
    "a lane about nothing there is" => [
      [{"kind" => "fork", "id" => 2, "lanes" => [{"id" => 1, "test" => {"kind" => "sneezed"}}]}],
      "steps[0].lanes[0].test.kind",
      /\AA lane waits for one of opened/
    ],
    "a step of no kind" => [[{"kind" => "parade", "id" => 1}], "steps[0].kind", /\AA step is one of letter/],
    "one step twice" => [[letter, letter], "steps", "Two steps of this plan are one."],
    "a million days" => [[{**letter, "timing" => {"amount" => 1_000_000, "unit" => "days"}}], "steps[0].timing.amount",
      "About the timing: a delay is a whole number from 0 to 3650 days."],
    "no day" => [[{**letter, "timing" => {"counted" => "date", "date" => "2026-02-30"}}], "steps[0].timing.date",
      "“2026-02-30” is no day."],
    "an unknown word of time" => [[{**letter, "timing" => {"moon" => 1}}], "steps[0].timing.moon", "About the timing: there is no :moon."],
    "no time" => [[{**letter, "not_after" => {"at" => "soon"}}], "steps[0].not_after.at", "“soon” is no time."],
    "five hundred steps" => [(1..500).map { |id| {**letter, "id" => id} }, "steps", "A plan has 200 steps at most."]
  }.each do |what, (steps, at, message)|
    it "refuses #{what}, and says where" do
      expect(refused({"steps" => steps})).to match([at, message])
    end
  end

  it "refuses forks that stand within forks too deep to be followed" do
    deep = (1..9).inject([letter.merge("id" => 99)]) do |steps, n|
      [{"kind" => "fork", "id" => n, "lanes" => [{"id" => n, "steps" => steps}]}]
    end
    expect(refused({"steps" => deep}).last).to eq("Forks stand within forks 6 deep at most.")
  end
end
