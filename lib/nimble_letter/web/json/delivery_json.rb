# frozen_string_literal: true

module NimbleLetter
  module Web
    # A delivery as the contract has it.
    module DeliveryJson
      def self.write(delivery)
        {
          **delivery.values.slice(:id, :state, :person_id, :subject, :text, :sent_at, :reason),
          person: delivery.person.name,
          from: delivery.mailbox.address
        }
      end
    end
  end
end
