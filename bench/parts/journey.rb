# frozen_string_literal: true

module Bench
  module_function

  def journey(members = 10_000, steps = 8)
    plan =
      Core::Journey::Plan.new(
        steps:
          Array.new(steps) do |i|
            Core::Journey::Steps::Letter.new(id: i, letter_id: i, timing: Core::Calendar::Timing.new(amount: i.zero? ? 0 : 3))
          end
      )
    zones = %w[Europe/London Europe/Paris America/New_York].map { |name| Core::Calendar::Zones.fetch(name) }
    machine =
      Core::Journey::Machine.new(
        calendar: Core::Calendar::WorkCalendar.new(holidays: [Date.new(2026, 5, 25)]),
        our_zone: zones.first
      )
    letters = 0
    seconds = Benchmark.realtime do
      members.times do |n|
        known = Core::Journey::Known.new(their_zone: zones[n % 3], seed: n)
        letters += Core::Journey::Path.new(machine, plan, known).letters(plan.entrance(NOW), NOW).size
      end
    end
    puts format("%d members x %d steps: %d letters laid out in %.2f s", members, steps, letters, seconds)
  end
end
