# frozen_string_literal: true

module NimbleLetter
  module Work
    # Puts an address or a whole domain on the do-not-mail list, or takes it off, and marks the records it is about.
    # Blocking takes effect at once: everybody it is about leaves the sequences they are in.
    module BlockAddress
      REASON = "address_blocked"

      # @return [Records::BlockedAddress]
      def self.put(kind:, value:, reason:, moment:)
        Records.db.transaction do
          value = value.to_s.strip.delete_prefix("@")
          take_turn(kind, value)
          block =
            Records::BlockedAddress.create(
              kind: kind,
              value: value,
              reason: reason.to_s.strip,
              account_id: moment.account&.id,
              created_at: moment.now
            )
          note(block.people.select_map(:id), "put on the do-not-mail list: #{reason}", block, moment)
          follow(block.people, moment)
          block
        end
      end

      # @param block [Records::BlockedAddress]
      def self.take_off(block, moment:)
        Records.db.transaction do
          take_turn(block.kind, block.value)
          blocked = block.people.where(address_blocked: true).select_map(:id)
          block.delete
          follow(block.people, moment)
          note(Records::Person.where(id: blocked, address_blocked: false).select_map(:id), "taken off the do-not-mail list", block, moment)
        end
      end

      # Marks these people as the list has them now; those it has leave the sequences they are in.
      # @param people [Sequel::Dataset]
      def self.follow(people, moment)
        on_it = people.on_the_list.select_map(Sequel[:people][:id])
        Records.db[:people].where(id: on_it, address_blocked: false).update(address_blocked: true)
        free = people.where(address_blocked: true).select_map(Sequel[:people][:id]) - on_it
        Records.db[:people].where(id: free).update(address_blocked: false)
        Records::Member
          .active
          .where(person_id: on_it)
          .order(:id)
          .for_update
          .all
          .each { |member| Leaving.call(member, REASON, at: moment.now, account_id: moment.account&.id, cause: moment.cause) }
      end

      def self.take_turn(kind, value)
        fold = Core::Fold.call(value).to_s
        (kind == "domain") ? Records::AddressTurns.take_domain(fold) : Records::AddressTurns.take([fold])
      end
      private_class_method :take_turn

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
