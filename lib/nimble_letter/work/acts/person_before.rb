# frozen_string_literal: true

module NimbleLetter
  module Work
    # A person's whole record as it stood, to be put back when a merge is taken back.
    module PersonBefore
      LEFT = %i[id version created_at updated_at deleted_at last_activity_at last_activity_kind].freeze

      # @param person [Records::Person]
      # @return [Hash] as JSON keeps it
      def self.of(person)
        values = person.values.except(*LEFT).transform_values { |value| (value.is_a?(Date) || value.is_a?(Time)) ? value.iso8601 : value }
        {"values" => values, "addresses" => person.other_addresses.map(&:email)}
      end

      def self.put_back(person, before)
        Records.db[:people].where(id: person.id).update(before["values"].transform_keys(&:to_sym).merge(version: person.version + 1))
        person.other_addresses_dataset.delete
        before["addresses"].each { |email| Records::PersonAddress.create(person_id: person.id, email: email) }
      end
    end
  end
end
