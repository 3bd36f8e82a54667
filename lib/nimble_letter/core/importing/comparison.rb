# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # What a row would change in a record that is there already.
      module Comparison
        SETS = ["person.tags", "person.lists", Targets::ADDRESSES.key, Targets::NOTE.key].freeze

        # @param values [Hash{String=>Object}] of the row
        # @param held [Hash{String=>Object}] of the record; sets as folded names
        # @return [Hash{String=>Array(Object, Object)}] old and new by field key; of a set, what would come to it
        def self.changes(values, held)
          Sieve.keeping_no(values, held).each_with_object({}) do |(key, value), changes|
            if SETS.include?(key)
              more = value.reject { |name| held.fetch(key, []).include?(Fold.call(name)) }
              changes[key] = [[], more] if more.any?
            else
              changes[key] = [held[key], value] unless same?(held[key], value)
            end
          end
        end

        # Another spelling of case only is the same; an accent is not: it may be what the file mends.
        def self.same?(held, value)
          return held.to_s.strip == value.to_s.strip if held.is_a?(String) && value.is_a?(String)

          held == value
        end
        private_class_method :same?
      end
    end
  end
end
