# frozen_string_literal: true

module NimbleLetter
  module Work
    # A "no" belongs to the address. Each record carries whether any record with its address says no (Core::Sieve::SAYS_NO),
    # so that a condition, the sieve and the worker need not look around. Whoever changes an address or a "no" tells this
    # afterwards; it puts the mark where it belongs, and those whom it reaches leave their sequences.
    module NoAtAddress
      SLICE = 1000
      # What has to change for any of this to matter, by column and by field.
      COLUMNS = %i[email do_not_mail address_failed consent].freeze
      KEYS = COLUMNS.map { |name| "person.#{name}" }.freeze
      REASON = "no_at_address"

      class << self
        # @param folds [Array<String, nil>] addresses, folded, before and after the change
        def follow(folds, moment)
          Records.db.transaction do
            Records::AddressTurns.take(folds)
            Records::SameAddress.keys(folds).each_slice(SLICE) { |some| follow_some(some, moment) }
          end
        end

        # @param keys [Array<String>] addresses, see Records::SameAddress
        # @return [Array<String>] those at which a record says no
        def said_at(keys) = Records::SameAddress.column.then { |at| Records::Person.where(at => keys).saying_no.select_map(at).uniq }

        # @param row [Hash{Symbol=>Object}] columns of one person
        def says_no?(row) = Core::Sieve.says_no?(Records::Person.asked(row, Core::Sieve::SAYS_NO.keys))

        # @param ids [Array<Integer>]
        def follow_people(ids, moment)
          ids.each_slice(SLICE) do |some|
            follow(Records::Person.where(id: some).select_map(:email_fold), moment)
          end
        end

        # Everything that is marked on these records because of others: after an undo, say.
        # @param ids [Array<Integer>]
        def mark_again(ids, moment)
          follow_people(ids, moment)
          BlockAddress.follow(Records::Person.where(Sequel[:people][:id] => ids), moment)
        end

        # What must outlast its record: an address that says no is put on the do-not-mail list when the record moves to another
        # address, or is emptied.
        # @param people [Array<Hash>] rows that say no themselves, as they were
        def remember(people, moment)
          people.each do |person|
            next if person[:email].nil? || Records::BlockedAddress.blocks?(person[:email])

            BlockAddress.put(kind: "address", value: person[:email], reason: reason(person), moment: moment)
          rescue Sequel::ValidationFailed
            next # what is no address gets no letter either
          end
        end

        # Whose address failed while a lane waited for that goes on in it: no letter comes of it, and nobody there has said no.
        # @return [Array<Records::Member>]
        def in_lane(members)
          spent = members.flat_map { |member| member.spent || [] }
          failures = spent.empty? ? [] : Records::Event.where(id: spent, kind: "bounced").select_map(:id)
          return [] if failures.empty?

          found = members.select { |member| (member.spent || []).intersect?(failures) }
          found.reject { |member| said_by_person?(member.person_id) }
        end

        private

        def follow_some(keys, moment)
          at = Records::SameAddress.column
          here = Records::Person.where(at => keys)
          said = said_at(keys)
          here.exclude(at => said).where(no_at_address: true).update(no_at_address: false)
          return if said.empty?

          here.where(at => said, :no_at_address => false).update(no_at_address: true)
          take_out(here.where(at => said).select_map(:id), moment)
        end

        def take_out(ids, moment)
          members = Records::Member.active.where(person_id: ids).order(:id).for_update.all
          (members - in_lane(members)).each do |member|
            Leaving.call(member, REASON, at: moment.now, account_id: moment.account&.id, cause: moment.cause)
          end
        end

        def said_by_person?(person_id)
          keys = Records::SameAddress.keys(Records::Person.where(id: person_id).select_map(:email_fold))
          here = Records::Person.where(Records::SameAddress.column => keys)
          here.where(Sequel.|({do_not_mail: true}, {consent: "no"})).any?
        end

        def reason(person)
          said = {do_not_mail: "asked not to be written to", consent: "said no to letters", address_failed: "letters to it failed"}
          why = said.find { |name, _| Core::Sieve::SAYS_NO.fetch("person.#{name}").include?(person[name]) }.last
          "#{Records::Person.name_of(person) || "Somebody"}: #{why}"[0, 300]
        end
      end
    end
  end
end
