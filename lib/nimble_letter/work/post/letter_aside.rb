# frozen_string_literal: true

module NimbleLetter
  module Work
    # A letter that could not go, through no fault of its person: it counts as failed, its member waits where they are, and
    # both are shown until somebody has it tried again or goes on without it. Nobody gets a second letter who never had the
    # first one, unless its step says that the sequence goes on without; a gap is waited for there too, since somebody can fill it.
    module LetterAside
      # @param delivery [Records::Delivery]
      # @param problem [Exception, String] why
      # @param at [Time] when it would have gone
      # @param lacks [Array<String>] keys of the fields it has a gap for; filled in, it is tried again, see FilledGaps
      # @param held [Sequel::Dataset] the same delivery, as long as it is the caller's
      # @return [Boolean] false when it was the caller's no longer, and nothing was done
      def self.call(delivery, problem, at:, lacks: [], held: Records::Delivery.where(id: delivery.id))
        Records.db.transaction do
          member = Records::Member.dataset.for_update.first(id: delivery.member_id)
          reason = problem.is_a?(Exception) ? "It could not be made: #{problem.message}" : problem
          changed = held.update(state: "failed", reason: reason[0, 300], lease: nil, leased_until: nil)
          next false unless changed == 1

          lacking = lacks.join(",")[0, 500] if lacks.any?
          told = {reason: reason[0, 300], lacks: lacking}.compact
          Happening.call("failed", at: at, person_id: delivery.person_id, delivery: delivery, data: told)
          moment = Moment.new(now: at)
          if lacks.empty? && moment.plan_of(member.sequence_id, member.plan)[delivery.step_id]&.without_it
            Passing.without(member, moment)
          else
            PutAside.call("letter", delivery.id, problem, at: at, delivery_id: delivery.id, lacks: lacking)
          end
          true
        end
      end

      # As it was set aside, for a member who is back.
      # @param delivery [Records::Delivery] that failed
      def self.again(delivery, at:)
        told = Records::Event.where(delivery_id: delivery.id, kind: "failed").order(Sequel.desc(:id)).first
        PutAside.call("letter", delivery.id, delivery.reason.to_s, at: at, delivery_id: delivery.id, lacks: told&.data&.[]("lacks"))
      end
    end
  end
end
