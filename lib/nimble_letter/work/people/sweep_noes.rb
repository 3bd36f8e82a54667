# frozen_string_literal: true

module NimbleLetter
  module Work
    # Once a day looks through all records for a "no" that did not reach one with the same address, or a mark that nothing gives a reason
    # for any more. It is mended at once and said: in the person's history and, when somebody could have been written to, under what was
    # set aside.
    module SweepNoes
      KIND = "no"
      SETTING = "noes_swept"
      WORDS = "Could have been written to although somebody at this address said no. The record is marked now."
      MOST = 1000 # at once; the rest follow

      # @return [Integer] records that were mended
      def self.daily(moment)
        today = moment.today.iso8601
        return 0 if Records.db[:settings].where(key: SETTING).get(:value) == today

        Records::TakingTurns.with(SETTING) do
          call(moment).tap do |mended|
            if mended < MOST
              Records.db[:settings].on_duplicate_key_update(value: today).insert(key: SETTING, value: today)
            end
          end
        end || 0
      end

      # @return [Integer] records that were mended
      def self.call(moment)
        slipped, stale = slipped(), stale()
        Records.db.transaction do
          Records::AddressTurns.take_of(slipped | stale)
          # Only what is still so in our turn.
          slipped, stale = slipped() & slipped, stale() & stale
          NoAtAddress.mark_again(slipped | stale, moment)
          say(slipped, true, moment)
          say(stale, false, moment)
        end
        slipped.each { |id| PutAside.call(KIND, id, WORDS, at: moment.now) }
        (slipped | stale).size
      end

      # @return [Array<Integer>] those who could be written to, or whose record says less than the address
      def self.slipped
        people = Records::Person.dataset
        ids(people.on_the_list.where(address_blocked: false)) | ids(at_a_no(people).where(no_at_address: false))
      end

      # @return [Array<Integer>] those whom nothing keeps from being written to but a mark
      def self.stale
        people, id = Records::Person.dataset, Sequel[:people][:id]
        ids(people.where(address_blocked: true).exclude(id => people.on_the_list.select(id))) |
          ids(people.where(no_at_address: true).exclude(id => at_a_no(people).select(id)))
      end

      def self.at_a_no(people)
        at = Records::SameAddress.column
        people.where(Sequel[:people][at] => Records::Person.saying_no.exclude(at => nil).select(at))
      end
      private_class_method :at_a_no

      def self.ids(people) = people.limit(MOST).select_map(Sequel[:people][:id])
      private_class_method :ids

      def self.say(ids, marked, moment)
        data = JSON.generate(field: "person.no_at_address", from: !marked, to: marked, by: "check")
        Records::BulkInsert.call(:events, ids.map { |id| {kind: "field_changed", person_id: id, occurred_at: moment.now, data: data} })
      end
      private_class_method :say
    end
  end
end
