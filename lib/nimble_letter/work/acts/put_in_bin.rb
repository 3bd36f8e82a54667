# frozen_string_literal: true

module NimbleLetter
  module Work
    # Puts records in the bin: nothing is sent to them any more and no question finds them. After thirty days they are
    # emptied: what says who it was goes, what happened stays, so that figures keep their count.
    module PutInBin
      DAYS = 30
      SLICE = 200
      # What tells nothing about who it was.
      STAYS = %i[
        id
        version
        created_at
        updated_at
        deleted_at
        standing
        consent
        do_not_mail
        address_failed
        address_blocked
        no_at_address
        name_order
        emptied
        added_on
      ].freeze

      # @param ids [Array<Integer>]
      def self.call(ids, moment:)
        Records.db[:people].where(id: ids, deleted_at: nil).update(deleted_at: moment.now)
        Records::Member
          .active
          .where(person_id: ids)
          .for_update
          .all
          .each { |member| Leaving.call(member, "in_the_bin", at: moment.now, account_id: moment.account&.id, cause: moment.cause) }
      end

      # Their memberships go on where they stood, but for sequences that have ended meanwhile.
      # @param ids [Array<Integer>]
      def self.take_out(ids, moment:)
        Records.db[:people].where(id: ids).update(deleted_at: nil)
        Standing.come_back(Records::Member.where(person_id: ids), "in_the_bin", moment)
      end

      # @return [Integer] records emptied in this round
      def self.empty_old(moment)
        ids =
          Records::Person
            .binned
            .where(Sequel[:people][:deleted_at] < moment.now - DAYS * 86_400)
            .limit(SLICE)
            .select_map(Sequel[:people][:id])
        return 0 if ids.empty?

        Records.db.transaction do
          NoAtAddress.remember(Records::Person.where(id: ids).saying_no.all, moment)
          blank = Records.db[:people].columns!.reject { |name| STAYS.include?(name) }.to_h { |name| [name, nil] }
          Records.db[:people].where(id: ids).update(blank.merge(emptied: true))
          %i[people_tags list_people person_addresses].each { |table| Records.db[table].where(person_id: ids).delete }
          Records.db[:change_entries].where(person_id: ids).update(before: nil, after: nil)
        end
        ids.size
      end
    end
  end
end
