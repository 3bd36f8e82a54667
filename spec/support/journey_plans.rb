# frozen_string_literal: true

# Plans of the core, put together in a few words.
module JourneyPlans
  Steps = NimbleLetter::Core::Journey::Steps

  # At nine sharp, unless something else is said.
  def timing(**how) = NimbleLetter::Core::Calendar::Timing.new(from_minute: 540, to_minute: 540, **how)

  # What stands beside the timing of a step.
  BESIDE = %i[only_for not_after look_first waits words to stays].freeze

  def letter(id, **how) = Steps::Letter.new(id: id, letter_id: id, timing: timing(**how.except(*BESIDE)), **how.slice(*BESIDE))

  def task(id, **how) = Steps::Task.new(id: id, words: "Ring them", timing: timing(**how.except(*BESIDE)), **how.slice(*BESIDE))

  def reaction(kind, **about) = Steps::Reaction.new(kind: kind, **about)

  def lane(id, test, *steps, comes_back: true) = Steps::Lane.new(id: id, test: test, steps: steps, comes_back: comes_back)

  def fork(id, *lanes, within: nil) = Steps::Fork.new(id: id, lanes: lanes, within: within && timing(**within))

  def plan_of(*steps, **rest) = NimbleLetter::Core::Journey::Plan.new(steps: steps, **rest)

  def london = NimbleLetter::Core::Calendar::Zones.fetch("Europe/London")

  def machine(calendar: NimbleLetter::Core::Calendar::WorkCalendar.new) =
    NimbleLetter::Core::Journey::Machine.new(calendar: calendar, our_zone: london)

  def known(seed: 0, zone: london, **more) = NimbleLetter::Core::Journey::Known.new(their_zone: zone, seed: seed, **more)
end
