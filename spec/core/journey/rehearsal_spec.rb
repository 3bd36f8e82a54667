# frozen_string_literal: true

# What a rehearsal takes to happen while letters wait for room.
RSpec.describe Core::Journey::Rehearsal do
  include JourneyPlans

  let(:monday) { Time.utc(2026, 2, 23, 9) }
  let(:box) { Core::Sending::Room::Box.new(id: 1, a_day: 1, pace: nil, from_minute: 0, to_minute: 1440) }
  let(:room) { Core::Sending::Room.new(zone: london) }
  let(:plan) { plan_of(letter(1), letter(2, amount: 1)) }

  # @param reactions [Proc] to a letter of a step that went then
  def rehearsed(ids, reactions: ->(_step, _at) { [] })
    assumption = Class.new(SimpleDelegator) do
      define_method(:reactions) { |_person, step, at, _link| reactions.call(step, at) }
    end.new(Core::Journey::Assumption.nobody)
    travellers = ids.map { |id| described_class::Traveller.new(id, box, plan.entrance(monday), known(seed: id), false) }
    described_class.new(machine, plan, room, assumption).run(travellers, monday)
  end

  def event(kind, step, at) = Core::Journey::Known::Event.new(id: -step.id, kind: kind, at: at, step_id: step.id)

  it "has whoever replies while their letter waits for a full mailbox leave without it" do
    room.sent(box.id, Date.new(2026, 2, 24), 1)
    run = rehearsed([1], reactions: ->(step, at) { [event("replied", step, at + 30 * 3600)] })
    expect(run.letters.map { |letter| [letter.step_id, letter.at] }).to eq([[1, monday]])
    expect(run.outs.map(&:to_a)).to eq([[1, monday + 30 * 3600, "replied"]])
  end

  it "keeps waiting through what nothing of the plan heeds" do
    room.sent(box.id, Date.new(2026, 2, 24), 1)
    run = rehearsed([1], reactions: ->(step, at) { [event("opened", step, at + 30 * 3600)] })
    expect(run.letters.map { |letter| [letter.step_id, letter.at, letter.why] })
      .to eq([[1, monday, nil], [2, monday + 2 * 86_400, :full]])
  end

  it "sends on a day of little room the letters of those first who have heard from us" do
    run = rehearsed([1, 2])
    expect(run.letters.map { |letter| [letter.person_id, letter.step_id, (letter.at - monday).to_i / 86_400] })
      .to eq([[1, 1, 0], [1, 2, 1], [2, 1, 2], [2, 2, 3]])
  end
end
