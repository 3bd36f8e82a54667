# frozen_string_literal: true

# What a rehearsal takes to happen while letters wait for room.
RSpec.describe Core::Rehearsing::Rehearsal do
  include JourneyPlans

  let(:monday) { Time.utc(2026, 2, 23, 9) }
  let(:box) { Core::Sending::Room::Box.new(id: 1, a_day: 1, pace: nil, from_minute: 0, to_minute: 1440) }
  let(:room) { Core::Sending::Room.new(zone: london) }
  let(:plan) { plan_of(letter(1), letter(2, amount: 1)) }

  # @param reactions [Proc] to a letter of a step that went then
  def rehearsed(ids, reactions: ->(_step, _at) { [] })
    assumption = Class.new(SimpleDelegator) do
      define_method(:possible) { Core::Journey::Happenings::ALL }
      define_method(:reactions) { |_person, step, at, _link, _heeded| reactions.call(step, Time.at(at).utc) }
    end.new(Core::Rehearsing::Assumption.nobody)
    travellers = ids.map { |id| Core::Rehearsing::Traveller.new(id, box, plan.entrance(monday), known(seed: id), false) }
    described_class.new(machine, plan, room, assumption).run(travellers, monday)
  end

  def event(kind, step, at) = Core::Journey::Known::Event.new(id: -step.id, kind: kind, at: at, step_id: step.id)

  it "has whoever replies while their letter waits for a full mailbox leave without it" do
    room.sent(box.id, Date.new(2026, 2, 24), 1)
    run = rehearsed([1], reactions: ->(step, at) { [event("replied", step, at + 30 * 3600)] })
    expect(run.letters.map { |letter| [letter.step_id, letter.at] }).to eq([[1, monday]])
    expect(run.outs.map { |out| [out.person_id, out.at, out.reason] }).to eq([[1, monday + 30 * 3600, "replied"]])
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

  it "is not for what takes too long, and says how far it came" do
    stub_const("NimbleLetter::Core::Rehearsing::Rehearsal::MOST_TURNS", 9)
    expect(rehearsed([1, 2]).letters.size).to eq(4)
    expect { rehearsed(1..9) }.to raise_error(Invalid, /by 27 February 2026 much of it is still to come/) do |error|
      expect(error.code).to eq(:too_long)
    end
  end

  describe "with a pace" do
    let(:box) { Core::Sending::Room::Box.new(id: 1, a_day: 5000, pace: [60, 60], from_minute: 540, to_minute: 1080) }
    let(:plan) { plan_of(letter(1, to_minute: 1080), letter(2, amount: 1, to_minute: 1080)) }

    def one(id, joined, had_letter) = Core::Rehearsing::Traveller.new(id, box, plan.entrance(joined), known(seed: id), had_letter)

    def run(travellers) =
      described_class.new(machine, plan, room, Core::Rehearsing::Assumption.nobody).run(travellers, monday)

    # Each of them woken for each that goes before, or on each day on which they wait, would be more than is rehearsed.
    it "has a great many wait in line, one behind the other, with hardly more turns than letters" do
      stub_const("NimbleLetter::Core::Rehearsing::Rehearsal::MOST_TURNS", 3350)
      letters = rehearsed(1..1600).letters
      expect(letters.map { |letter| [letter.step_id, letter.person_id] }).to match_array([1, 2].product((1..1600).to_a))
      a_day = letters.group_by { |letter| letter.at.to_date }.values
      expect(a_day[1, 4].map(&:size)).to eq([540] * 4)
      expect(letters.each_cons(2).map { |former, latter| latter.seconds - former.seconds }).to all(be >= 60)
    end

    it "counts those who are put off together, too, towards what takes too long" do
      stub_const("NimbleLetter::Core::Rehearsing::Rehearsal::MOST_TURNS", 3350)
      stub_const("NimbleLetter::Core::Rehearsing::Rehearsal::AS_A_TURN", 1)
      expect { rehearsed(1..1600) }.to raise_error(Invalid, /longer than can be rehearsed/)
    end

    it "has those who have heard from us go first, and then who waits longest" do
      room.free_from(box.id, monday + 9 * 3600 - 180)
      letters = run([one(3, monday, false), one(2, monday, true), one(1, monday, true)]).letters.first(3)
      due = letters.map(&:due)
      expect(letters.map(&:person_id).last).to eq(3)
      expect(due.first).to be < due[1]
      expect(letters.map { |letter| [letter.at, letter.why] })
        .to eq(Array.new(3) { |n| [monday + 9 * 3600 - 180 + n * 60, :pace] })
    end

    it "has whoever replies in the line leave when they do, and the next move up" do
      gone = one(1, monday, true)
      gone.expect([event("replied", plan[1], monday + 8 * 3600)])
      room.free_from(box.id, monday + 9 * 3600 - 60)
      run = run([gone, one(2, monday, true)])
      expect(run.letters.first).to have_attributes(person_id: 2, at: monday + 9 * 3600 - 60)
      expect(run.outs.first).to have_attributes(person_id: 1, at: monday + 8 * 3600, reason: "replied")
      expect(run.outs.map(&:at)).to eq(run.outs.map(&:at).sort)
    end
  end
end
