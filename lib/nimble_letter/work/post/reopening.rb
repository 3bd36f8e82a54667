# frozen_string_literal: true

module NimbleLetter
  module Work
    # When a letter may go that missed its time: now if its window is open, else spread over the next opening, as
    # far as its mailbox sends then.
    class Reopening
      def initialize(moment) = @moment = moment

      # @param delivery [Records::Delivery]
      # @param from [Time] earliest instant
      # @return [Time] UTC
      def for(delivery, from: @moment.now)
        step, person = @moment.plan_of(delivery.sequence_id, delivery.member.plan)[delivery.step_id], delivery.person
        place = Core::Journey::Place.new(step_id: step.id, base: from)
        known = @moment.known(person, @moment.plan_of(delivery.sequence_id))
        @moment.machine.opening(step, place, known, from, delivery.mailbox&.to_core&.hours(@moment.firm.zone)).at
      end
    end
  end
end
