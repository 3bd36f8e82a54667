# frozen_string_literal: true

module NimbleLetter
  module Work
    # A person's several addresses, of which one is in use.
    class PersonAddresses
      def initialize(person, moment)
        @person, @moment = person, moment
      end

      # @param email [String]
      # @param as [String] "further", or "in_use": then the one in use so far is kept as a further one
      # @param version [Integer, nil] of the record, for "in_use"
      def put(email, as:, version: nil)
        Records.db.transaction do
          (as == "in_use") ? use(email, version) : add(email)
        end
      end

      private

      def use(email, version)
        former = @person.email
        ChangePerson.call(@person, {"person.email" => email}, version: version || @person.version, moment: @moment)
        @person.other_addresses_dataset.where(email_fold: Core::Fold.call(email)).delete
        add(former) if former
      end

      def add(email)
        fold = Core::Fold.call(email)
        return if fold == @person.email_fold || @person.other_addresses_dataset.where(email_fold: fold).any?

        Records::PersonAddress.create(person_id: @person.id, email: email.to_s.strip)
      end
    end
  end
end
