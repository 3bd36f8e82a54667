# frozen_string_literal: true

# Random plans times random happenings times rounds of a worker that comes late or not at all, over sixty days.
RSpec.describe "a journey, whatever the plan and whatever happens" do
  include JourneyPlans

  def live(seed, changes: false)
    random = RandomJourneys.new(seed)
    story = RandomJourneys::Story.new(plan = random.plan, plan.entrance(RandomJourneys::BEGIN_AT), [], [], nil)
    happenings, zone = random.happenings(plan), random.zone
    about = {zone: zone, seed: seed, dates: random.dates.compact, answers: random.answers, nods: plan.all.map(&:id).select(&:even?)}
    random.rounds.each do |now|
      break if story.ended

      change(story, random) if changes && random.pick([true, *[false] * 20])
      story.known = ->(at) { known(events: happenings.select { |one| one.at <= at }, had: story.done.map { |step, _| step.id }, **about) }
      round(story, now)
      yield(story, now) if block_given?
    end
    story
  end

  def change(story, random)
    old = story.plan
    story.plan = random.changed(old)
    story.place = Core::Journey::Moving.moved(old, story.plan, story.place)
    raise "#{story.place} is nowhere" unless story.place.step_id.nil? || story.plan[story.place.step_id]
  end

  # All that is to be done by now, as the worker does it.
  def round(story, now)
    200.times do
      decision = machine.next(story.plan, story.place, story.known.call(now), now)
      raise "another answer" unless machine.next(story.plan, story.place.dup, story.known.call(now), now) == decision
      return if decision.is_a?(Core::Journey::Decisions::Wait)

      carry_out(story, decision, now)
      return if story.ended
    end
    raise "it goes round in circles"
  end

  def carry_out(story, decision, now)
    case decision
    when Core::Journey::Decisions::Leave, Core::Journey::Decisions::Finish
      story.ended, story.reason = now, decision
    when Core::Journey::Decisions::Do
      story.done << [decision.step, now, decision.due]
      waits = decision.step.is_a?(JourneyPlans::Steps::Task) && decision.step.waits
      story.place = waits ? story.place.with(begun: now) : story.plan.after(story.place, now)
    when Core::Journey::Decisions::Send
      story.done << [decision.step, now, decision.due]
      story.place = story.plan.after(story.place, now)
    when Core::Journey::Decisions::Take
      story.place = story.plan.into(story.place, decision.lane, decision.at, decision.because)
    else
      story.skipped << decision if decision.is_a?(Core::Journey::Decisions::Skip)
      story.place = story.plan.after(story.place, decision.at)
    end
  end

  def ahead(plan, step_id, seen = [])
    return seen if step_id.nil? || seen.include?(step_id)

    seen << step_id
    step = plan[step_id]
    step.lanes.each { |lane| ahead(plan, lane.steps.first&.id, seen) } if step.is_a?(JourneyPlans::Steps::Fork)
    ahead(plan, plan.following(step_id), seen)
  end

  def each_seed(count, &block)
    PropCheck.forall(PropCheck::Generators.choose(0..10_000_000)).with_config(n_runs: count, &block)
  end

  it "gives nobody a step twice, and nothing lies both behind and ahead" do
    each_seed(250) do |seed|
      live(seed) do |story|
        done = story.done.map { |step, _| step.id }
        raise "twice" unless done.uniq == done

        both = ahead(story.plan, story.place.step_id) & (done - (story.place.begun ? [story.place.step_id] : []))
        raise "#{both} lie behind and ahead" if both.any?
      end
    end
  end

  it "does everything at its time: in the window, on a day that fits, by the clock it follows" do
    each_seed(250) do |seed|
      story = live(seed)
      zone = story.known ? story.known.call(Time.at(0)).their_zone : london
      story.done.each do |step, now, due|
        raise "before it was due" if now < due.at

        date, minute = Core::Calendar::Zones.local((step.timing.zone == "theirs") ? zone : london, due.at)
        raise "outside of its window" unless minute.between?(540, [step.timing.to_minute - 1, 540].max)
        raise "on a #{date.wday}" unless step.timing.weekdays.include?(date.wday)
        raise "on a day off" if step.timing.days == "working" && [0, 6].include?(date.wday)
      end
    end
  end

  it "sends nothing after what takes somebody out" do
    each_seed(250) do |seed|
      story = live(seed)
      next unless story.known

      out = story.known.call(RandomJourneys::BEGIN_AT + 70 * 86_400).events.select do |event|
        story.plan.leaves_on?(event.kind) && !event.by_machine && !story.place.spent.include?(event.id)
      end
      after = out.map(&:at).min or next
      letters = story.done.select { |step, now, _| step.is_a?(JourneyPlans::Steps::Letter) && now > after }
      lanes = story.plan.all.grep(JourneyPlans::Steps::Fork).flat_map(&:lanes)
      kinds = out.map(&:kind) - lanes.map(&:test).grep(JourneyPlans::Steps::Reaction).map(&:kind)
      raise "written to after #{kinds.first}" if letters.any? && kinds.any?
    end
  end

  it "keeps all of that through changes of the plan at any moment" do
    each_seed(250) do |seed|
      live(seed, changes: true) do |story|
        done = story.done.map { |step, _| step.id }
        raise "twice" unless done.uniq == done
      end
    end
  end
end
