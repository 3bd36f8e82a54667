# frozen_string_literal: true

module NimbleLetter
  module Work
    # Says whether addresses that differ only by what follows a plus sign are one. Takes effect at once: a "no" and the
    # do-not-mail list reach the records that are now at the address, and let go of those that are not.
    module ChoosePlusTags
      # @param plus_tags [String] of Core::SameAddress::PLUS_TAGS
      # @raise [Forbidden] unless an admin asks
      def self.call(plus_tags, moment:)
        moment.admin!
        return if Records::Firm.current.plus_tags == plus_tags

        Records.db.transaction do
          moment.note("setting_changed", about: "addresses with a plus sign are #{plus_tags}")
          Records::AddressTurns.take_all
          Records::Firm.save(plus_tags: plus_tags)
          NoAtAddress.follow(at_tagged, moment)
          Records::BlockedAddress.where(kind: "address").select_map(:value_trunk).uniq.each_slice(NoAtAddress::SLICE) do |trunks|
            BlockAddress.follow(Records::Person.where(email_trunk: trunks), moment)
          end
        end
      end

      # @return [Array<String>] addresses, folded, that another one differs from by its plus sign only
      def self.at_tagged
        tagged = Records::Person.exclude(email_trunk: nil).exclude(email_fold: :email_trunk).distinct.select(:email_trunk)
        Records::Person.where(email_trunk: tagged).select_map(:email_fold).uniq
      end
      private_class_method :at_tagged
    end
  end
end
