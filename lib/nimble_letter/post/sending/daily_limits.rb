# frozen_string_literal: true

module NimbleLetter
  module Post
    # Leaves room in each mailbox for ordinary mail: past its daily limit the rest waits for the next day.
    class DailyLimits
      # @param moment [Work::Moment]
      # @param mailbox_ids [Array<Integer>] those that are asked about; counting costs what they sent today
      def initialize(moment, mailbox_ids)
        @moment = moment
        @limits = Records::Mailbox.select_hash(:id, :daily_limit)
        midnight = Core::Calendar::Zones.instant(moment.firm.zone, moment.today, 0)
        @sent = Hash.new(0)
        letters = Records::Delivery.where(mailbox_id: mailbox_ids).group_and_count(:mailbox_id)
        # Two questions: asked as one, the server reads everything that was ever sent.
        [letters.where(state: "sent") { sent_at >= midnight }, letters.where(state: %w[on_wire claimed])].each do |some|
          some.each { |row| @sent[row[:mailbox_id]] += row[:count] }
        end
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
