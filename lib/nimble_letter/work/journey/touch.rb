# frozen_string_literal: true

module NimbleLetter
  module Work
    # Notes that a letter was opened or a link in it followed, once: a thousand fetches of one link are one click.
    class Touch
      # @param kind [String] opened or clicked
      # @param delivery [Records::Delivery]
      # @param by_machine [Boolean] counted apart, so that a scanner before a person hides nobody
      # @param link [String, nil] as it was written
      # @return [Boolean] whether it was a new one
      def self.call(kind, delivery, at:, by_machine:, link: nil)
        Records.db.transaction do
          # Fetches at the same time take turns at the member, as everything does that moves one.
          Records::Member.dataset.for_update.first(id: delivery.member_id)
          next false if Core::Tracking::SameTouch.among?(noted(kind, delivery, at, by_machine), at, link)

          data = link && {link: link}
          Happening.call(kind, at: at, person_id: delivery.person_id, delivery: delivery, by_machine: by_machine, data: data)
          true
        end
      end

      def self.noted(kind, delivery, at, by_machine)
        Records::Event
          .where(delivery_id: delivery.id, kind: kind, by_machine: by_machine)
          .where { occurred_at > at - Core::Tracking::SameTouch::SECONDS }
          .select_map(%i[occurred_at data])
          .map { |noted_at, data| {at: noted_at, link: data && JSON.parse(data)["link"]} }
      end
      private_class_method :noted
    end
  end
end
