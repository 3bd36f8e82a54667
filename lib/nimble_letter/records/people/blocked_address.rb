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
        fold = Core::Fold.call(value)
        set(value_fold: fold, value_trunk: Core::SameAddress.trunk(fold))
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

      dataset_module do
        # Entries for this address, single ones and of its domain.
        # @param fold [String]
        def about(fold)
          where(Sequel.|(at_address(fold), {kind: "domain", value_fold: fold.split("@", 2).last}))
        end

        # @param fold [String]
        def single(fold) = where(at_address(fold))

        private

        def at_address(fold) = {:kind => "address", SameAddress.blocked_column => SameAddress.keys([fold])}
      end

      # @param email [String, nil]
      def self.blocks?(email) = Core::Fold.call(email).then { |fold| fold ? about(fold).any? : false }

      # @return [Hash] a condition that may give the same people
      def condition
        domain = kind == "domain"
        {"field" => "person.email", "is" => domain ? "contains" : "one_of", "value" => domain ? "@#{value}" : [value]}
      end

      # @return [Sequel::Dataset] of the people it is about
      def people = (kind == "domain") ? Person.where(domain_fold: value_fold) : Person.at_address(value_fold)
    end
  end
end
