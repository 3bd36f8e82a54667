# frozen_string_literal: true

module NimbleLetter
  module Work
    # Somebody says what became of a letter in doubt: it went out, or it shall go again.
    module SettleDelivery
      # @param verdict [String] "sent" or "again"
      # @raise [Invalid] when the letter is not in doubt
      def self.call(delivery, verdict, moment:)
        Records.db.transaction do
          delivery.lock!
          raise Invalid.new("This letter is not in doubt.", code: :wrong_state) unless delivery.state == "in_doubt"

          case verdict
          when "sent" then sent(delivery, moment)
          when "again" then again(delivery, moment)
          else raise Invalid.new("A letter in doubt was sent, or goes again.", at: "verdict")
          end
        end
      end

      # As one that its server took.
      def self.sent(delivery, moment)
        delivery.update(accepted: true, sent_at: delivery.sent_at || moment.now)
        SentTogether.new(moment).call([delivery], held: Records::Delivery.where(state: "in_doubt"))
      end
      private_class_method :sent

      def self.again(delivery, moment)
        still_in = delivery.member.state == "active"
        delivery.update(
          state: still_in ? "due" : "skipped",
          due_at: moment.now,
          message_id: nil,
          sent_at: nil,
          lease: nil,
          leased_until: nil,
          reason: still_in ? nil : delivery.member.left_reason
        )
      end
      private_class_method :again
    end
  end
end
