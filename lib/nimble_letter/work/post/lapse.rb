# frozen_string_literal: true

module NimbleLetter
  module Work
    # A step may say that its letter goes no later than a date, or than so long after it was due. One that was held up until then,
    # by a full mailbox, a hold or a pause, is passed by, and its member goes on.
    module Lapse
      # @param delivery [Records::Delivery] that is due, locked
      # @return [Boolean] whether it was passed by
      def self.call(delivery, moment)
        member = delivery.member
        plan = moment.plan_of(delivery.sequence_id, member.plan)
        step = plan[delivery.step_id]
        return false unless step&.not_after && step.id == member.step_id

        member.lock!
        known = Knowing.new(plan, moment).of_members([member], {member.person_id => member.person})[member.id]
        decision = moment.machine.next(plan, member.place, known, moment.now)
        return false unless decision.is_a?(Core::Journey::Decisions::Skip) && decision.reason == :too_late

        Passing.pass_by(delivery, member, "too_late", moment)
        true
      end
    end
  end
end
