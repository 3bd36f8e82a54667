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
        go_on(member, plan.after(member.place, base), base, plan, moment.known(person, plan), moment)
      end

      # What is known of a member has changed: the letter that waits for its time gets another, or is passed by.
      # @param member [Records::Member] locked
      # @return [Boolean] whether anything moved
      def self.anew(member, person, moment)
        plan = moment.plan_of(member.sequence_id)
        step = plan[member.step_id]
        return false unless step && step.timing.counted == "field"

        letter = Records::Delivery.where(member_id: member.id, step_id: step.id, state: "due").for_update.first or return false
        decision = moment.machine.next(plan, member.place, moment.known(person, plan), moment.now)
        case decision
        when Core::Journey::Decisions::Skip, Core::Journey::Decisions::Leave
          letter.update(state: "skipped", reason: decision.reason.to_s)
          go_on(member, member.place, moment.now, plan, moment.known(person, plan), moment)
        else
          return false if letter.due_at == decision.due.at

          letter.update(due_at: decision.due.at)
        end
        true
      end

      # On to the next letter, past what is passed by.
      def self.go_on(member, place, now, plan, known, moment)
        decision = moment.machine.next(plan, place, known, now)
        while decision.is_a?(Core::Journey::Decisions::Skip)
          passed_by(member, decision, now)
          place = plan.after(place, decision.at)
          decision = moment.machine.next(plan, place, known, now)
        end
        member.update(step_id: place.step_id, base: place.base)
        case decision
        when Core::Journey::Decisions::Finish then finish(member, now)
        when Core::Journey::Decisions::Leave then Leaving.call(member, decision.reason, at: now)
        else next_letter(member, decision)
        end
      end
      private_class_method :go_on

      def self.passed_by(member, decision, at)
        Records::Event.insert(
          kind: "skipped",
          person_id: member.person_id,
          occurred_at: at,
          sequence_id: member.sequence_id,
          step_id: decision.step.id,
          letter_id: decision.step.letter_id,
          member_id: member.id,
          data: JSON.generate(reason: decision.reason)
        )
      end
      private_class_method :passed_by

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
