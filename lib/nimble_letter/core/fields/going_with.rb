# frozen_string_literal: true

module NimbleLetter
  module Core
    module Fields
      # Facts that go with another and are told together with it: the day somebody became a client, the day and the way
      # consent was noted. One rule for forms, acts on many records and files.
      module GoingWith
        DAYS = {"person.standing" => "person.standing_since", "person.consent" => "person.consent_on"}.freeze
        HOW = {"person.consent" => "person.consent_how"}.freeze
        KEYS = (DAYS.values + HOW.values).freeze

        # @param changed [Hash{String=>Object}] what really changes, by field key
        # @param today [Date]
        # @return [Hash{String=>Object}] with the days, unless they are said, and with another way than the former one
        def self.add(changed, today)
          days = DAYS.slice(*changed.keys).values.to_h { |key| [key, today] }
          ways = HOW.slice(*changed.keys).values.to_h { |key| [key, nil] }
          days.merge(ways).merge(changed)
        end

        # @return [Boolean] whether nothing changes but what goes with something else
        def self.only?(changed) = (changed.keys - KEYS).empty?
      end
    end
  end
end
