# frozen_string_literal: true

module NimbleLetter
  module Work
    # Puts an address or a whole domain on the do-not-mail list, or takes it off, and marks the records it is about.
    # Blocking takes effect at once: everybody it is about leaves the sequences they are in.
    module BlockAddress
      # @return [Records::BlockedAddress]
      def self.put(kind:, value:, reason:, moment:)
        Records.db.transaction do
          value = value.to_s.strip.delete_prefix("@")
          block =
            Records::BlockedAddress.create(
              kind: kind,
              value: value,
              reason: reason.to_s.strip,
              account_id: moment.account&.id,
              created_at: moment.now
            )
          ids = block.people.select_map(:id)
          mark(ids, moment)
          note(ids, "put on the do-not-mail list: #{reason}", block, moment)
          block
        end
      end

      # @param block [Records::BlockedAddress]
      def self.take_off(block, moment:)
        Records.db.transaction do
          people = block.people.select(:id, :email).all
          block.delete
          note(free(people), "taken off the do-not-mail list", block, moment)
        end
      end

      # Marks these people as the list has them now.
      # @param people [Sequel::Dataset]
      def self.follow(people, moment)
        all = people.select(:id, :email).all
        mark(all.map(&:id) - free(all), moment)
      end

      # They leave the sequences they are in.
      def self.mark(ids, moment)
        Records.db[:people].where(id: ids).update(address_blocked: true)
        Records::Member
          .active
          .where(person_id: ids)
          .for_update
          .all
          .each { |member| Leaving.call(member, "address_blocked", at: moment.now, account_id: moment.account&.id) }
      end
      private_class_method :mark

      # @return [Array<Integer>] ids of those whom nothing on the list blocks (any more)
      def self.free(people)
        people
          .reject { |person| Records::BlockedAddress.blocks?(person.email) }
          .map(&:id)
          .tap { |ids| Records.db[:people].where(id: ids).update(address_blocked: false) }
      end
      private_class_method :free

      def self.note(ids, words, block, moment)
        data = JSON.generate(field: "person.address_blocked", to: "#{block.value} #{words}")
        if ids.any?
          Records.db[:events].import(
            %i[kind person_id occurred_at account_id data],
            ids.map { |id| ["field_changed", id, moment.now, moment.account&.id, data] },
            slice: 500
          )
        end
      end
      private_class_method :note
    end
  end
end
