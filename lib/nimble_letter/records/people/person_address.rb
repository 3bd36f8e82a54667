# frozen_string_literal: true

module NimbleLetter
  module Records
    # A further address of a person. The one in use is on the person's own record.
    class PersonAddress < Sequel::Model(:person_addresses)
      many_to_one :person

      def before_save
        set(email_fold: Core::Fold.call(email))
        super
      end

      def validate
        super
        errors.add(:email, "This does not look like an address.") unless email.to_s.match?(Core::Address::PATTERN)
      end
    end
  end
end
