# frozen_string_literal: true

# The plan of a sequence as it is sent back over the API, and ways to change it.
module PlanInput
  # @return [Array<Hash>] see StepInput in the contract
  def self.of(sequence) = NimbleLetter::Work::StepInputs.of(sequence)

  # Changes something of it in place.
  def self.change(steps, random, fresh)
    row = rows(steps).sample(random: random)
    case random.rand(4)
    when 0 then row.delete_at(random.rand([row.size, 1].max))
    when 1 then row.insert(random.rand(row.size + 1), *fresh.steps(1, 1))
    when 2 then row.shuffle!(random: random)
    when 3 then row.reject { |step| step["kind"] == "fork" }.sample(random: random)&.store("amount", random.rand(6))
    end
  end

  # @return [Array<Array<Hash>>] the trunk, and the steps of each lane
  def self.rows(steps) = [steps, *steps.flat_map { |step| (step["lanes"] || []).flat_map { |lane| rows(lane["steps"]) } }]
end
