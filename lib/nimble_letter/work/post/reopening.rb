# frozen_string_literal: true

module NimbleLetter
  module Work
    # When a letter may go that missed its time: now if its window is open, else spread over the next opening.
    class Reopening
      def initialize(moment) = @moment = moment

      # @param delivery [Records::Delivery]
      # @param from [Time] earliest instant
      # @return [Time] UTC
      def for(delivery, from: @moment.now)
        timing = delivery.step.timing
        zone = zone_of(delivery, timing)
        opening = timing.next_opening(from, zone, @moment.calendar)
        return opening if opening == from

        again = Core::Calendar::Timing.new(**timing.to_h, amount: 0, unit: "working_days")
        again.due(from, their_zone: zone, our_zone: zone, calendar: @moment.calendar, seed: delivery.person_id)
      end

      private

      def zone_of(delivery, timing)
        (timing.zone == "theirs") ? Core::Calendar::Zones.fetch(delivery.person.time_zone || @moment.firm.time_zone) : @moment.firm.zone
      end
    end
  end
end
