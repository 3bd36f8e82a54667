# frozen_string_literal: true

module NimbleLetter
  module Work
    # Somebody's mailbox said until when they are away. Nobody leaves for that; what is due to them meanwhile waits for the working
    # day after, in its window, by the same machine that reckons all times.
    module Away
      # @param person_id [Integer]
      # @param day [Date] the last one they named
      def self.call(person_id, day, moment)
        Records.db.transaction do
          members = Records::Member.active.where(person_id: person_id).for_update.all
          Records::Person.where(id: person_id).update(away_until: day)
          person = Records::Person[person_id]
          members.each { |member| put_off(member, person, moment) }
        end
      end

      # The letter they wait for, when it is due later by now.
      # @param member [Records::Member] locked
      def self.put_off(member, person, moment)
        plan = moment.plan_of(member.sequence_id, member.plan)
        step = plan[member.step_id]
        return unless step.respond_to?(:timing)

        due = moment.machine.due(step, member.place, moment.known(person, plan))
        return unless due

        letter = Records::Delivery.where(member_id: member.id, step_id: step.id, state: "due").where { due_at < due.at }
        letter.update(due_at: due.at)
      end
    end
  end
end
