# frozen_string_literal: true

module NimbleLetter
  module Work
    # Records that a reply brought what the sequence was for.
    module Conversion
      MAX_PENCE = 10**11

      # @param incoming [Records::Incoming] matched to a person
      # @param label [String] "visit booked"
      # @param value_pence [Integer]
      # @raise [Invalid] for a reply of nobody known, or one that has been recorded already
      def self.call(incoming, label:, value_pence:, moment:)
        raise Invalid.new("This reply belongs to no person yet.", code: :nobody) unless incoming.person_id
        raise Invalid.new("A value is an amount from 0 up.", at: "value_pence") unless (0..MAX_PENCE).cover?(value_pence)

        Records.db.transaction do
          incoming.lock!
          if of(incoming).any?
            raise Invalid.new("This reply is recorded as a conversion already.", code: :already_recorded)
          end
          Happening.call(
            "converted",
            at: moment.now,
            person_id: incoming.person_id,
            delivery: incoming.delivery,
            account_id: moment.account&.id,
            data: {
              label: label,
              value_pence: value_pence,
              incoming_id: incoming.id
            }
          )
          incoming.update(sort: "done", version: incoming.version + 1, updated_at: moment.now)
        end
      end

      # @return [Sequel::Dataset] the conversion of a reply
      def self.of(incoming)
        Records::Event.where(
          :kind => "converted",
          :person_id => incoming.person_id,
          Sequel.function(:json_value, :data, "$.incoming_id") => incoming.id.to_s
        )
      end
    end
  end
end
