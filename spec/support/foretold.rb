# frozen_string_literal: true

# A running plan is changed at a random moment: what its preview announces for each member, and what then happens to them if nobody
# does anything.
module Foretold
  HORIZON = 8 * 366 * 86_400
  # A change that this sequence alone makes, so that it decides no condition.
  SEEN = {"what" => "tag", "to" => {"names" => ["seen"]}}.freeze

  # kind, before and after as announced; went: what happened, the time of each step by its id
  Told = Struct.new(:kind, :before, :after, :went)

  # Several changes of one plan, each made where the one before was not.
  # @param random [Random]
  # @yieldparam [Hash{Integer=>Told}] by member, of each change that can be made
  def each_foretold(random, changes)
    lay_out(random)
    @at = lead_apart(random)
    changes.times do
      Records.db.transaction(savepoint: true, rollback: :always) do
        told = foretold(random, @at) if @sequence.refresh.under_way?
        yield told if told
      end
    end
  end

  private

  def foretold(random, at)
    propose(random, at) or return
    change = Work::ChangePlan.new(@sequence.refresh, moment(at))
    told = change.reckon.members
    told.each { |id, one| one.before ||= one.after = ahead(Records::Member[id], at) }
    before = Records::Event.max(:id)
    @doubted = Records::Delivery.where(sequence_id: @sequence.id, state: "in_doubt").select_map(:id)
    change.effect(version: @sequence.proposal_version)
    live_on(at)
    told.to_h { |id, one| [id, Told.new(one.kind, one.before, one.after, went(id, before))] }
  end

  def lay_out(random)
    draft = make_sequence(people: @people, letters: [], mailbox: @mailbox, leave_on: [])
    plans = RandomPlans.new(random, letters: @letters.map(&:id), other: @other.id)
    leave_if = plans.pick(nil, nil, nil, RandomPlans::PRESS)
    steps = plain(plans.whole)
    Work::PlanSequence.change(draft, {version: draft.version, steps: steps, leave_if: leave_if}, moment: moment)
    @sequence = start(draft.refresh)
  end

  # Steps whose outcome is known beforehand: nobody is waited for, and nobody leaves by them.
  def plain(steps)
    steps.map do |step|
      step = step.merge("look_first" => false, "waits" => false, "stays" => true).slice(*allowed(step))
      step = step.merge(SEEN) if step["kind"] == "change"
      step["lanes"] ? step.merge("lanes" => step["lanes"].map { |lane| lane.merge("steps" => plain(lane["steps"])) }) : step
    end
  end

  def allowed(step)
    own = {"letter" => "look_first", "task" => "waits", "hand_over" => "stays"}[step["kind"]]
    step.keys - %w[look_first waits stays] + [own].compact
  end

  def turn(at) = (@worker ||= worker(transport: @transport)).dispatch_due(at)

  # Some days pass, and people react and are moved about, until they stand at different steps.
  # @return [Time]
  def lead_apart(random)
    at = now
    random.rand(1..6).times do
      at += random.rand(1..60) * 3600
      happen_once(random, at)
      turn(at)
    end
    at
  end

  def happen_once(random, at)
    member = Records::Member.active.where(sequence_id: @sequence.id).all.sample(random: random) or return
    letter = Records::Delivery.where(member_id: member.id, state: "sent").order(Sequel.desc(:id)).first
    case random.rand(7)
    when 0, 1 then letter && Work::Touch.call("opened", letter, at: at, by_machine: false)
    when 2 then letter && Work::Happening.call("replied", at: at, person_id: member.person_id, delivery: letter)
    when 3 then letter && Work::Happening.call("bounced", at: at, person_id: member.person_id, delivery: letter)
    when 4 then act({"kind" => "skip_step"}, member, at)
    when 5 then act({"kind" => "move_to", "step_id" => @sequence.steps.sample(random: random).id}, member, at)
    when 6 then doubt(member)
    end
  end

  # Its server was gone before it answered.
  def doubt(member)
    due = Records::Delivery.where(member_id: member.id, step_id: member.step_id, state: "due")
    due.update(state: "in_doubt", reason: "The line broke.")
  end

  def act(json, member, at)
    return unless @sequence.refresh.under_way?

    act = Work::Act.new(json.merge("sequence_id" => @sequence.id), moment(at))
    Work::ChangeMany.start(act, Records::Person.where(id: member.person_id), moment: moment(at))
  end

  # @return [Boolean]
  def propose(random, at)
    steps = PlanInput.of(@sequence)
    fresh = RandomPlans.new(random, letters: @letters.map(&:id), other: @other.id)
    random.rand(1..3).times { PlanInput.change(steps, random, fresh) }
    change = Work::ChangePlan.new(@sequence, moment(at))
    change.propose({steps: plain(steps), only_later: random.rand(3).zero?}, version: @sequence.proposal_version)
    !@sequence.refresh.proposal.nil? && change.reckon && true
  rescue NimbleLetter::Invalid
    false # what cannot be meant is refused
  end

  # What nobody has counted: as it would have been without the change.
  def ahead(member, at)
    people = {member.person_id => Records::Person[member.person_id]}
    Work::Ahead.new(@sequence, moment(at), of: :steps).call([member], people)[member.id]
  end

  def live_on(at)
    turn(at)
    settle(at)
    upto = at + HORIZON
    turn(at) while (at = next_due(at)) && at <= upto
  end

  def next_due(after)
    members = Records::Member.active.where(sequence_id: @sequence.id)
    letters = Records::Delivery.where(state: "due", member_id: members.select(:id))
    [members, letters].filter_map { |rows| rows.where { due_at > after }.min(:due_at) }.min
  end

  # What was in doubt is known to have gone out.
  def settle(at)
    Records::Delivery.where(sequence_id: @sequence.id, state: "in_doubt").each do |letter|
      Work::SettleDelivery.call(letter, "sent", moment: moment(at))
    end
    turn(at)
  end

  # What they came to and could not do, such as joining a sequence they are in already or that has ended, counts as done.
  # @return [Hash{Integer=>Time}] by step
  def went(member_id, before)
    done = Records::Event.where(member_id: member_id, kind: %w[sent step_done skipped]).where { id > before }.order(:id)
    done = done.reject { |event| event.kind == "skipped" && !%w[cannot_join sequence_not_running].include?(event.data["reason"]) }
    done.reject { |event| @doubted.include?(event.delivery_id) }.to_h { |event| [event.step_id, event.occurred_at] }
  end
end
