# frozen_string_literal: true

module NimbleLetter
  module Work
    # Somebody has looked at a letter that waits for it: it may go, at its time. A nod counts for one member and step.
    module Nod
      # @param member [Records::Member]
      # @return [Records::Member]
      # @raise [Invalid] when nothing waits for a nod there
      def self.call(member, moment:)
        Records.db.transaction do
          member.lock!
          plan = moment.plan_of(member.sequence_id, member.plan)
          step = plan[member.step_id]
          unless member.state == "active" && step.respond_to?(:look_first) && step.look_first
            raise Invalid.new("No letter of theirs waits to be looked at.", code: :wrong_state)
          end

          MemberWrites.tell(Knowing::NODDED, member, step, moment: moment)
          Onward.new(plan, member.sequence_id, moment, halted: member.sequence.state != "running").call([member])
        end
        member
      end
    end
  end
end
