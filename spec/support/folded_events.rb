# frozen_string_literal: true

# Where a member stands by their events alone.
class FoldedEvents
  attr_reader :step, :state, :status

  # @param plans [Hash{Integer=>Core::Journey::Plan}] by number
  def initialize(plans, first_status)
    @plans, @status = plans, first_status
  end

  def take(event)
    case event.kind
    when "joined"
      @plan = @plans.fetch(event.data["plan"])
      @step, @state = @plan.steps.first&.id, "active"
    when "sent", "step_done", "skipped", "went_without" then @step = @plan.following(event.step_id) if @step == event.step_id
    when "lane_taken" then @step = lane(event)
    when "member_moved" then @step = event.step_id
    when "plan_moved" then @step, @plan = event.data["step"], @plans.fetch(event.data["plan"])
    when "left", "finished" then @state = event.kind
    when "came_back" then @state = "active"
    when "status_moved" then @status = event.data["to"]
    end
  end

  private

  def lane(event)
    lane = event.data&.[]("lane") && @plan.lane(event.data["lane"])
    return @plan.following(event.step_id) unless lane

    lane.steps.first&.id || (@plan.following(event.step_id) if lane.comes_back)
  end
end
