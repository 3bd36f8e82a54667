# frozen_string_literal: true

module NimbleLetter
  module Post
    # The last look at the address before a letter leaves: whether it may be written to as its record stands now, and whether
    # it has had this letter already, under another record.
    module Barred
      FIELDS = %i[email do_not_mail address_blocked address_failed consent no_at_address].freeze
      GONE = %w[on_wire sent in_doubt].freeze

      # @param row [Records::Delivery]
      # @param person [Records::Person] as read for composing
      # @return [String, nil] key of the sieve's reason
      def self.reason(row, person)
        now = Records.db[:people].where(id: person.id).select(*FIELDS, :email_fold, :deleted_at).first
        return "in_the_bin" if now.nil? || now[:deleted_at]

        Core::Sieve.reason_for(FIELDS.to_h { |name| ["person.#{name}", now[name]] })&.key ||
          (Core::Sieve::SAME_ADDRESS if had_already?(row, person, now[:email_fold]))
      end

      def self.had_already?(row, person, fold)
        others = Records.db[:people].where(email_fold: fold).exclude(id: person.id).select_map(:id)
        others.any? && Records::Delivery.where(step_id: row.step_id, person_id: others, state: GONE).any?
      end
      private_class_method :had_already?
    end
  end
end
