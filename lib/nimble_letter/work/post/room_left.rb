# frozen_string_literal: true

module NimbleLetter
  module Work
    # The room there is as things stand: what has left each mailbox today, until when its pace keeps it, and what people have had lately.
    module RoomLeft
      # These are out, or may be.
      GONE = %w[sent on_wire in_doubt].freeze

      # @param mailbox_ids [Array<Integer>] those that are asked about; counting costs what they sent today
      # @param person_ids [Array<Integer>]
      # @return [Core::Sending::Room]
      def self.now(moment, mailbox_ids, person_ids)
        room = Core::Sending::Room.new(zone: moment.firm.zone, guard: moment.firm.guard)
        today(moment, mailbox_ids).each { |id, letters| room.sent(id, moment.today, letters) }
        Records::Mailbox.where(id: mailbox_ids, free_why: "pace").exclude(free_at: nil).select_map(%i[id free_at])
          .each { |id, at| room.free_from(id, at) }
        lately(moment, person_ids).each { |id, times| room.had(id, times) } if moment.firm.guard
        room
      end

      # @return [Hash{Integer=>Integer}] letters by mailbox
      def self.today(moment, mailbox_ids)
        midnight = Core::Calendar::Zones.instant(moment.firm.zone, moment.today, 0)
        letters = Records::Delivery.where(mailbox_id: mailbox_ids).group_and_count(:mailbox_id)
        # Two questions: asked as one, the server reads everything that was ever sent.
        gone = [letters.where(state: "sent") { sent_at >= midnight }, letters.where(state: %w[on_wire claimed])]
        gone.flat_map(&:all).each_with_object(Hash.new(0)) { |row, all| all[row[:mailbox_id]] += row[:count] }
      end
      private_class_method :today

      # @return [Hash{Integer=>Array<Time>}] by person
      def self.lately(moment, person_ids)
        since = moment.now - moment.firm.guard.days * Core::Sending::Room::DAY
        Records::Delivery.where(person_id: person_ids, state: GONE).where { sent_at > since }.select_hash_groups(:person_id, :sent_at)
      end
      private_class_method :lately
    end
  end
end
