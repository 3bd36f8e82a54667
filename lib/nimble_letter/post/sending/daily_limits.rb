# frozen_string_literal: true

module NimbleLetter
  module Post
    # Leaves room in each mailbox for ordinary mail: past its daily limit the rest waits for the next day.
    class DailyLimits
      def initialize(moment)
        @moment = moment
        @limits = Records::Mailbox.select_hash(:id, :daily_limit)
        midnight = Core::Calendar::Zones.instant(moment.firm.zone, moment.today, 0)
        @sent =
          Records::Delivery
            .where(state: %w[sent on_wire claimed])
            .where { Sequel.|(sent_at >= midnight, {state: %w[on_wire claimed]}) }
            .group_and_count(:mailbox_id)
            .as_hash(:mailbox_id, :count)
        @sent.default = 0
      end

      # Counts the letter in when there is room.
      # @return [Time, nil] when it may go instead
      def full_until(delivery)
        return tomorrow(delivery) if @sent[delivery.mailbox_id] >= @limits.fetch(delivery.mailbox_id)

        @sent[delivery.mailbox_id] += 1
        nil
      end

      private

      def tomorrow(delivery)
        Work::Reopening.new(@moment).for(delivery, from: Core::Calendar::Zones.instant(@moment.firm.zone, @moment.today + 1, 0))
      end
    end
  end
end
