# frozen_string_literal: true

# Random plans as somebody could lay them out over the API, on a real database.
class RandomPlans
  CLIENT = {"field" => "person.standing", "is" => "one_of", "value" => ["client"]}.freeze
  PRESS = {"field" => "person.tags", "is" => "one_of", "value" => ["press"]}.freeze

  # @param letters [Array<Integer>]
  # @param other [Integer] a running sequence to hand over to
  def initialize(random, letters:, other:)
    @random, @letters, @other, @new = random, letters, other, 0
    @before = [] # letters and tasks that a lane can be about
  end

  # @return [Array<Hash>] see StepInput in the contract
  def steps(depth = 2, count = 2 + @random.rand(4)) = Array.new(count) { step(depth) }

  # @return [Array<Hash>] likewise, with something in them that is done: nothing starts that does nothing
  def whole
    steps = self.steps
    steps = self.steps while idle?(steps)
    steps
  end

  def pick(*some) = some[@random.rand(some.size)]

  private

  def idle?(steps)
    steps.all? { |step| step["kind"] == "fork" && step["lanes"].all? { |lane| idle?(lane["steps"]) } }
  end

  def step(depth)
    case @random.rand(depth.positive? ? 10 : 6)
    when 0..2 then named("letter", letter_id: pick(*@letters), look_first: @random.rand(7).zero?)
    when 3 then named("task", words: "Ring them", of: pick("owner", "sender"), waits: pick(true, false), outcomes: [])
    when 4 then own("change", **change)
    when 5 then own("hand_over", sequence_id: @other, stays: pick(true, false))
    else fork(depth - 1)
    end
  end

  def change
    what, to = pick(["tag", {"names" => ["press"]}], ["untag", {"names" => ["press"]}], ["standing", {"standing" => "client"}],
      ["stage", {"stage" => "measured"}], ["status", {"status" => "curious"}])
    {what: what, to: to}
  end

  def fork(depth)
    within = pick(nil, {amount: @random.rand(5), unit: "working_days"}, {amount: 3, unit: "hours", from_minute: 0, to_minute: 1440})
    before = @before.dup
    lanes = Array.new(1 + @random.rand(2)) { lane(test(before), depth) }
    lanes << lane(nil, depth) if pick(true, false)
    {"kind" => "fork", "within" => within, "lanes" => lanes}
  end

  def lane(test, depth) = {"test" => test, "comes_back" => pick(true, true, false), "steps" => steps(depth, @random.rand(3))}

  def test(before)
    kind = pick("opened", "clicked", "replied", "bounced", "task_done", nil, nil)
    return {"condition" => pick(CLIENT, PRESS, {"not" => PRESS})} if kind.nil?

    {"kind" => kind, "step_id" => pick(nil, *before)}
  end

  # One that a lane further down can be about.
  def named(kind, **parts)
    @before << (@new -= 1)
    own(kind, id: @new, **parts)
  end

  def own(kind, **parts) =
    {"kind" => kind, **parts.transform_keys(&:to_s), **timing, "only_for" => pick(nil, nil, nil, CLIENT, {"not" => PRESS}),
     "not_after" => pick(nil, nil, nil, {"seconds" => 2 * 86_400})}

  def timing
    counted = pick("step", "step", "step", "joining", "field")
    {"counted" => counted, "amount" => @random.rand(4), "unit" => pick(*((counted == "field") ? %w[days weeks] : %w[hours days weeks])),
     "field" => (counted == "field") ? "person.birthday" : nil, "yearly" => counted == "field",
     "from_minute" => 540, "to_minute" => pick(690, 1080), "weekdays" => pick([1, 2, 3, 4, 5], [2, 4], [0, 1, 2, 3, 4, 5, 6]),
     "days" => pick("working", "any"), "zone" => pick("theirs", "ours"), "late" => pick("skip", "at_once"),
     "no_date" => pick("skip", "leave")}
  end
end
