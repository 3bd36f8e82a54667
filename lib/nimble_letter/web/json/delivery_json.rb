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

      # Letters in doubt, with what was heard of each since: whoever answered a letter had it.
      # @param deliveries [Array<Records::Delivery>]
      def self.doubts(deliveries)
        heard = Records::Event.by_people.where(delivery_id: deliveries.map(&:id), kind: Work::LetterCounts::KINDS).order(:occurred_at, :id)
        first = heard.all.group_by(&:delivery_id).transform_values { |events| {kind: events[0].kind, at: events[0].occurred_at} }
        deliveries.map { |delivery| {**write(delivery), heard: first[delivery.id]} }
      end
    end
  end
end
