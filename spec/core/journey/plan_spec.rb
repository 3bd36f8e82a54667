# frozen_string_literal: true

RSpec.describe Core::Journey::Plan do
  include JourneyPlans

  it "takes no event for a reason to leave that is none" do
    expect(
described_class.new(
  steps: [],
  leave_on: %w[opened replied]
).leave_on
).to eq([*Core::Journey::Happenings::ALWAYS_OUT, "replied"])
  end

  it "cannot be changed from outside once it is made" do
    steps = []
    plan = described_class.new(steps: steps)
    steps << :another
    expect([plan.steps, plan.frozen?, plan.steps.frozen?]).to eq([[], true, true])
  end

  it "refuses one id for two" do
    expect { plan_of(letter(1), letter(1)) }.to raise_error(Invalid, "Two steps of this plan are one.")
    expect { plan_of(fork(1, lane(5, nil), lane(5, nil))) }.to raise_error(Invalid, "Two lanes of this plan are one.")
  end

  it "knows what comes behind each step: out of a lane that comes back, and out of one that ends" do
    plan = plan_of(
      letter(1),
      fork(2, lane(50, reaction("opened"), letter(3), letter(4)), lane(51, nil, letter(5), comes_back: false)),
      letter(6)
    )
    expect([1, 2, 3, 4, 5, 6].to_h { |id| [id, plan.following(id)] }).to eq(1 => 2, 2 => 6, 3 => 4, 4 => 6, 5 => nil, 6 => nil)
    expect(plan.all.map(&:id)).to eq([1, 2, 3, 4, 5, 6])
  end

  it "leads out of a lane within a lane, and through an empty one" do
    inner = fork(3, lane(60, nil, letter(4)))
    plan = plan_of(fork(1, lane(50, reaction("opened"), inner), lane(51, nil)), letter(9))
    expect(plan.following(4)).to eq(9)
    place = plan.entrance(Time.at(0))
    expect(plan.into(place, plan.lane(51), Time.at(5)).step_id).to eq(9)
    expect(plan.into(place, plan.lane(50), Time.at(5), Core::Journey::Known::Event.new(id: 8))).to have_attributes(step_id: 3, spent: [8])
  end

  it "says what must be asked of somebody who stands before a step" do
    plan = plan_of(
      letter(1, only_for: :some),
      fork(2, lane(50, JourneyPlans::Steps::Holds.new(condition: :rich)), lane(51, reaction("opened"))),
      leave_if: :client
    )
    expect([1, 2, nil].map { |id| plan.asks(id) }).to eq([[:client, :some], [:client, :rich], [:client]])
  end
end

RSpec.describe Core::Journey::Moving do
  include JourneyPlans

  def moved(old, new, step_id, only_later: false, **more)
    place = Core::Journey::Place.new(step_id: step_id, base: Time.at(0), **more)
    described_class.moved(old, new, place, only_later: only_later).step_id
  end

  let(:old) { plan_of(letter(1), letter(2), letter(3)) }

  it "leaves everybody where they stand as long as that is there" do
    expect([1, 2, 3, nil].map { |id| moved(old, old, id) }).to eq([1, 2, 3, nil])
  end

  it "has those who stand before a step get what is put in before it, and nobody behind it" do
    put_in = plan_of(letter(1), letter(9), letter(2), letter(3))
    expect([1, 2, 3, nil].map { |id| moved(old, put_in, id) }).to eq([1, 9, 3, nil])
    expect(moved(old, plan_of(letter(9), letter(1), letter(2)), 1)).to eq(9)
    expect(moved(old, put_in, 2, begun: Time.at(5))).to eq(2)
  end

  it "has nobody who stands there get what is inserted for people who arrive later, but what was moved there" do
    put_in = plan_of(letter(9), letter(1), letter(8), letter(2), letter(3))
    expect([1, 2, 3, nil].map { |id| moved(old, put_in, id, only_later: true) }).to eq([1, 2, 3, nil])
    expect(moved(old, plan_of(letter(1), letter(9), letter(3), letter(2)), 2, only_later: true)).to eq(3)
    expect(moved(old, plan_of(letter(1), letter(9)), 3, only_later: true)).to be_nil
  end

  it "has those before a step that is gone go on with the next that is there" do
    expect(moved(old, plan_of(letter(1), letter(3)), 2)).to eq(3)
    expect(moved(old, plan_of(letter(1), letter(9)), 2)).to eq(9)
    expect(moved(old, plan_of(letter(1)), 3)).to be_nil
  end

  it "has those whose lane is gone go on behind the fork" do
    forked = plan_of(fork(1, lane(50, reaction("opened"), letter(2)), lane(51, nil, letter(3))), letter(4))
    expect(moved(forked, plan_of(fork(1, lane(51, nil, letter(3))), letter(4)), 2)).to eq(4)
    expect(moved(forked, plan_of(letter(4)), 3)).to eq(4)
    expect(
moved(
  forked,
  plan_of(fork(1, lane(50, reaction("opened"), letter(8), letter(2)), lane(51, nil, letter(3))), letter(4)),
  2
)
).to eq(8)
  end
end
