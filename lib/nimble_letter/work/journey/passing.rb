# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Work
    # A letter is out, or will never be: the member moves on to the next step, or is done.
    module Passing
      # @param delivery [Records::Delivery]
      # @param at [Time] when it went
      # @param held [Sequel::Dataset] the same delivery, as long as it is the caller's
      # @param person [Records::Person, nil] when the caller has read them
      # @return [Boolean] false when it was the caller's no longer, and nothing was done
      def self.sent(delivery, at:, moment:, held: Records::Delivery.where(id: delivery.id), person: nil)
        Records.db.transaction do
          member = Records::Member.dataset.for_update.first(id: delivery.member_id)
          next false unless held.update(state: "sent", sent_at: at, lease: nil, leased_until: nil, reason: nil) == 1

          Happening.call("sent", at: at, person_id: delivery.person_id, delivery: delivery, member: member)
          onward(member, at, moment, person: person)
          true
        end
      end

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
      def self.onward(member, base, moment, person: nil)
        return member.save_changes unless member.state == "active"

        plan, person = moment.plan_of(member.sequence_id), person || Records::Person[member.person_id]
        place = plan.after(member.place, base)
        member.update(step_id: place.step_id, base: place.base)
        decision = moment.machine.next(plan, place, moment.known(person), base)
        decision.is_a?(Core::Journey::Decisions::Finish) ? finish(member, base) : next_letter(member, decision)
      end

      def self.finish(member, at)
        member.update(state: "finished")
        Records.db[:events].insert(
          kind: "finished",
          person_id: member.person_id,
          occurred_at: at,
          sequence_id: member.sequence_id,
          member_id: member.id
        )
        Ending.check(member.sequence_id, at: at)
      end
      private_class_method :finish

      def self.next_letter(member, decision)
        step, version = Records::Step[decision.step.id], member.version_of(decision.step.id)
        Records::Delivery.create(
          key: SecureRandom.urlsafe_base64(16),
          member_id: member.id,
          sequence_id: member.sequence_id,
          step_id: step.id,
          person_id: member.person_id,
          letter_id: step.letter_of(version).id,
          mailbox_id: member.mailbox_id,
          state: "due",
          due_at: decision.due.at,
          version: version
        )
      end
      private_class_method :next_letter
    end
  end
end
