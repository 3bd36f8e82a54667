# frozen_string_literal: true

module NimbleLetter
  module Work
    # What became of a letter moves its member: it is out, its address was refused, or its time has changed.
    module Passing
      # The other side said for good that there is no such address: the letter failed, and its person leaves.
      # @param reason [String] for people
      # @param held [Sequel::Dataset] as for #sent
      def self.refused(delivery, reason, at:, held: Records::Delivery.where(id: delivery.id))
        Records.db.transaction do
          Records::Member.dataset.for_update.first(id: delivery.member_id)
          next false unless held.update(state: "failed", reason: reason[0, 300], lease: nil, leased_until: nil) == 1

          Happening.call("refused", at: at, person_id: delivery.person_id, delivery: delivery, data: {reason: reason[0, 300]})
          true
        end
      end

      # Asks the journey what comes next for a member whose current step is behind them.
      # @param member [Records::Member] locked
      # @param base [Time] when it was done
      def self.onward(member, base, moment, person: nil)
        return member.save_changes unless member.state == "active"

        plan = moment.plan_of(member.sequence_id, ApplyPlan.catch_up([member], member.plan, moment))
        onward = Onward.new(plan, member.sequence_id, moment.at(base), people: person ? {person.id => person} : {})
        onward.call([member], places: {member.id => plan.after(member.place, base)})
      end

      # The letter will never be out, and its member goes on all the same.
      # @param member [Records::Member] locked
      def self.without(member, moment)
        return unless member.state == "active"

        MemberWrites.tell("went_without", member, plan_step(member, moment), moment: moment)
        onward(member, moment.now, moment)
      end

      # The letter that waits for its time is passed by.
      # @param letter [Records::Delivery] locked, as its member is
      def self.pass_by(letter, member, reason, moment)
        letter.update(state: "skipped", reason: reason, lease: nil, leased_until: nil)
        MemberWrites.tell("skipped", member, plan_step(member, moment), {reason: reason}, moment: moment)
        plan = moment.plan_of(member.sequence_id, member.plan)
        # The step counts from where the one before did, as one that was passed by on the way.
        Onward.new(plan, member.sequence_id, moment).call([member], places: {member.id => plan.after(member.place, member.base)})
      end

      # What is known of a member has changed: what waits for its time gets another, or is passed by.
      # @param member [Records::Member] locked
      # @return [Boolean] whether anything moved
      def self.anew(member, person, moment)
        plan = moment.plan_of(member.sequence_id, member.plan)
        step = plan[member.step_id]
        return false unless member.waits_for == "time" && step.respond_to?(:timing)

        # One that was tried already goes by when its server takes it.
        letter = Records::Delivery.where(member_id: member.id, step_id: step.id, state: "due", attempts: 0).for_update.first
        return letter_anew(letter, member, person, moment) if letter

        due_at = member.due_at or return false
        Onward.new(plan, member.sequence_id, moment, people: {person.id => person}).call([member])
        member.due_at != due_at
      end

      def self.letter_anew(letter, member, person, moment)
        plan = moment.plan_of(member.sequence_id, member.plan)
        known = Knowing.new(plan, moment).of_members([member], {person.id => person})[member.id]
        decision = moment.machine.next(plan, member.place, known, moment.now)
        case decision
        when Core::Journey::Decisions::Skip then pass_by(letter, member, decision.reason.to_s, moment)
        when Core::Journey::Decisions::Leave then Leaving.call(member, decision.reason, at: moment.now)
        else
          # What is due by now goes as soon as it may, whatever would have been its time.
          return false if letter.due_at == decision.due.at || [letter.due_at, decision.due.at].max <= moment.now

          letter.update(due_at: decision.due.at)
        end
        true
      end
      private_class_method :letter_anew

      def self.plan_step(member, moment) = moment.plan_of(member.sequence_id, member.plan)[member.step_id]
      private_class_method :plan_step
    end
  end
end
