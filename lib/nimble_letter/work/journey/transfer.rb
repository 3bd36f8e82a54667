# frozen_string_literal: true

require "set"

module NimbleLetter
  module Work
    # Where members of one sequence stand in a later plan, and which of their letters stay as they are. ApplyPlan moves members by it
    # and Reckoning moves copies of them by it, so that a preview announces what then happens.
    class Transfer
      Stage = Struct.new(:plan, :only_later)
      private_constant :Stage

      # A letter in one of these states is finished before its member is moved.
      UNDER_WAY = %w[claimed on_wire in_doubt].freeze

      # @param ids [Array<Integer>] members
      # @return [Set<Integer>] those whose letter failed and who wait for somebody to decide
      def self.waiting_for_somebody(ids)
        failed = Records::Delivery.where(member_id: ids, state: "failed")
        failed.where(id: Records::SetAside.exclude(delivery_id: nil).select(:delivery_id)).select_map(:member_id).to_set
      end

      # @param plan [Core::Journey::Plan] frozen, or as it is proposed
      # @param only_later [Boolean] of a proposed one, see Core::Journey::Moving
      def initialize(sequence_id, plan, moment, only_later: false)
        @sequence_id, @plan, @moment, @only_later = sequence_id, plan, moment, only_later
        @steps, @stages = {}, {}
      end

      # Plan by plan, so that it makes no difference when the worker comes by.
      # @param member [Records::Member] in an older plan
      # @param at_work [Boolean] see Core::Journey::Moving
      # @return [Core::Journey::Place] in the later plan
      def place(member, at_work: false) = carry(member.plan, member.place, at_work || !member.begun.nil?)

      # As #place, of a member whose letter is on its way: they are moved when it has left.
      # @param now [Time]
      def place_behind_letter(member, now)
        place = place(member, at_work: true)
        (place.step_id == member.step_id) ? place : carry(member.plan, plan_of(member.plan).after(member.place, now), false)
      end

      # Letters that wait for their time and stay as they are: their members stand before the same step, which is as it was, and
      # nothing else may keep them back.
      # @param members [Array<Records::Member>]
      # @param places [Hash{Integer=>Core::Journey::Place}] by member, see #place
      # @return [Hash{Integer=>Time}] by member, when the letter is due
      def kept(members, places)
        same = members.select { |member| places[member.id].step_id == member.step_id && same_step?(member.plan, member.step_id) }
        steps = Records::Step.where(id: same.map(&:step_id).uniq).as_hash(:id)
        by_id = same.to_h { |member| [member.id, member] }
        due = Records::Delivery.where(member_id: by_id.keys, state: "due").select_map(%i[member_id step_id letter_id due_at])
        due.each_with_object({}) do |(id, step_id, letter_id, at), kept|
          member = by_id[id]
          kept[id] = at if member.step_id == step_id && steps[step_id].letter_of(member.version_of(step_id))&.id == letter_id
        end
      end

      # @return [Boolean] whether all that lies ahead of somebody who stands before that step is the same in both plans
      def same_ahead?(number, step_id)
        old = plan_of(number)
        return false unless leaving(old) == leaving(@plan) && @plan[step_id]

        ahead = [old, @plan].map { |plan| plan.possibly(step_id).sort.map { |id| [plan[id], plan.following(id)] } }
        ahead.uniq.size == 1
      end

      private

      def carry(number, place, at_work)
        step_id, finishes = @steps[[number, place.step_id, at_work]] ||= carried(number, place.step_id, at_work)
        place.with(step_id: step_id, begun: (place.begun if finishes))
      end

      # @return [Array(Integer, Boolean)] the step they stand before then, and whether they are still at it
      def carried(number, step_id, at_work)
        place, old = Core::Journey::Place.new(step_id: step_id, base: nil), plan_of(number)
        stages(number).each do |stage|
          moved = Core::Journey::Moving.moved(old, stage.plan, place, at_work: at_work, only_later: stage.only_later)
          at_work &&= moved.step_id == place.step_id
          place, old = moved, stage.plan
        end
        [place.step_id, at_work]
      end

      # @return [Array<Stage>] the plans behind that one, the later one last
      def stages(number)
        @stages[number] ||= begin
          frozen = Records::FrozenPlan.where(sequence_id: @sequence_id, words_only: false)
            .where { |plan| (plan.number > number) & (plan.number <= @plan.number) }
            .order(:number).select_map(%i[number only_later])
          frozen = frozen.map { |one, only_later| Stage.new(plan_of(one), only_later) }
          (frozen.last&.plan&.number == @plan.number) ? frozen : [*frozen, Stage.new(@plan, @only_later)]
        end
      end

      def plan_of(number) = (number == @plan.number) ? @plan : @moment.plan_of(@sequence_id, number)

      def same_step?(number, step_id)
        old = plan_of(number)
        old[step_id] == @plan[step_id] && leaving(old) == leaving(@plan)
      end

      def leaving(plan) = [plan.leave_on, plan.leave_if, plan.ends_at]
    end
  end
end
