# frozen_string_literal: true

require "digest"
require "json"

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

      # What follows from other records is not this one's own.
      DERIVED = %w[no_at_address address_blocked].freeze

      # @return [String] the same as long as nobody has changed the record to anything else
      def self.stamp(person)
        before = of(person)
        Digest::SHA256.hexdigest(JSON.generate([before["values"].except(*DERIVED, *DERIVED.map(&:to_sym)), before["addresses"].sort]))
      end

      def self.put_back(person, before)
        Records.db[:people].where(id: person.id).update(before["values"].transform_keys(&:to_sym).merge(version: person.version + 1))
        # Those that are there stay the rows they are: an earlier act may speak of them.
        person.other_addresses_dataset.exclude(email: before["addresses"]).delete
        there = person.other_addresses_dataset.select_map(:email)
        (before["addresses"] - there).each { |email| Records::PersonAddress.create(person_id: person.id, email: email) }
      end
    end
  end
end
