# frozen_string_literal: true

module NimbleLetter
  module Work
    # A step may say that its letter goes no later than a date, or than so long after it was due. One that was held up until then,
    # by a full mailbox, a hold or a pause, is passed by, and its member goes on.
    module Lapse
      # @param delivery [Records::Delivery] that is due, locked
      # @param number [Integer] of the plan its member goes by
      # @return [Boolean] whether it is not to go now: passed by, or somebody else moves its member
      def self.call(delivery, number, moment)
        plan = moment.plan_of(delivery.sequence_id, number)
        step = plan[delivery.step_id]
        return false unless step&.not_after

        # Everything else takes the member first: whoever has them is not waited for, and the letter is looked at in the next round.
        member = Records::Member.where(id: delivery.member_id).for_update.skip_locked.first or return true
        return false unless member.step_id == step.id

        known = Knowing.new(plan, moment).of_members([member], {member.person_id => member.person})[member.id]
        decision = moment.machine.next(plan, member.place, known, moment.now)
        return false unless decision.is_a?(Core::Journey::Decisions::Skip) && decision.reason == :too_late

        Passing.pass_by(delivery, member, "too_late", moment)
        true
      end
    end
  end
end
