# frozen_string_literal: true

module NimbleLetter
  module Records
    # The do-not-mail list: single addresses and whole domains that nothing is ever sent to. Each person's record carries
    # whether it is blocked, so that a condition need not look here (Work::BlockAddress keeps the two together).
    class BlockedAddress < Sequel::Model(:blocked_addresses)
      KINDS = %w[address domain].freeze
      DOMAIN = /\A[^\s@<>",;]{1,120}\.[^\s@<>",;.]{2,}\z/

      many_to_one :account

      def before_save
        set(value_fold: Core::Fold.call(value))
        super
      end

      def validate
        super
        errors.add(:kind, "Block an address or a domain.") unless KINDS.include?(kind)
        unless value.to_s.match?((kind == "domain") ? DOMAIN : Core::Address::PATTERN)
          errors.add(:value, "This does not look like #{(kind == "domain") ? "a domain" : "an address"}.")
        end
        errors.add(:reason, "Say why, so that colleagues know.") if reason.to_s.strip.empty?
        if BlockedAddress.exclude(id: id).where(kind: kind, value_fold: Core::Fold.call(value)).any?
          errors.add(:value, "This is on the list already.")
        end
      end

      # @param email [String, nil]
      def self.blocks?(email)
        fold = Core::Fold.call(email) or return false
        where(Sequel.|({kind: "address", value_fold: fold}, {kind: "domain", value_fold: fold.split("@", 2).last})).any?
      end

      # @return [Sequel::Dataset] of the people it is about
      def people = Person.where(((kind == "domain") ? :domain_fold : :email_fold) => value_fold)
    end
  end
end
