# frozen_string_literal: true

module NimbleLetter
  module Work
    # Somebody who had said no may be written to again: the only way in which a "no" at an address ends. A colleague says how
    # they know; it is noted with the day and their name on every record that it concerns, and the address comes off the
    # do-not-mail list.
    module TakeNoBack
      # @param person [Records::Person]
      # @param how [String] e.g. "asked for the spring letter at the fair"
      # @raise [Invalid] when there is nothing to take back, or nobody says how they know
      def self.call(person, how, moment:)
        how = Core::Letters::Values.clean(how.to_s)&.slice(0, 200) or
          raise Invalid.new("Say how you know that they want letters again.", at: "how")
        Records.db.transaction do
          Records::AddressTurns.take([person.email_fold])
          saying = Records::Person.at_address(person.email_fold).saying_no.order(:id).for_update.select_map(:id)
          entries = person.email_fold ? Records::BlockedAddress.single(person.email_fold).all : []
          raise Invalid.new("Nobody at this address says no.", code: :nothing_said) if saying.empty? && entries.empty?

          entries.each { |entry| BlockAddress.take_off(entry, moment: moment) }
          free(saying, how, moment)
          NoAtAddress.follow([person.email_fold], moment)
        end
      end

      def self.free(ids, how, moment)
        Records.db[:people].where(id: ids).update(
          do_not_mail: false,
          address_failed: false,
          version: Sequel[:version] + 1,
          updated_at: moment.now
        )
        Records.db[:people].where(id: ids, consent: "no").update(
          consent: "yes",
          consent_on: moment.today,
          consent_how: how,
          consent_how_fold: Core::Fold.call(how),
          consent_by_id: moment.account&.id
        )
        data = JSON.generate(field: "person.no_at_address", from: true, to: false, how: how)
        rows = ids.map { |id| ["field_changed", id, moment.now, moment.account&.id, data] }
        Records.db[:events].import(%i[kind person_id occurred_at account_id data], rows)
      end
      private_class_method :free
    end
  end
end
