# frozen_string_literal: true

require "digest"

module NimbleLetter
  module Core
    module Letters
      # Which of two versions of a letter each member gets: evenly, and the same whenever it is asked.
      module Split
        VERSIONS = %w[a b].freeze
        # When one may be called the better, unless a step says otherwise: letters of each, and hours since the last went out.
        AT_LEAST = 30
        AFTER_HOURS = 48

        # @param step_id [Integer]
        # @param person_ids [Array<Integer>] all who get this letter now
        # @param before [Hash{String=>Integer}] how many had each version already; the smaller side is filled up first
        # @return [Hash{Integer=>String}] "a" or "b" by person
        def self.of(step_id, person_ids, before: {})
          given = VERSIONS.to_h { |version| [version, before.fetch(version, 0)] }
          # Shuffled by a digest, so that neither the age of a record nor the letter of a name decides.
          person_ids.sort_by { |id| Digest::SHA256.digest("#{step_id}:#{id}") }.to_h do |id|
            version = VERSIONS.min_by { |one| given[one] }
            given[version] += 1
            [id, version]
          end
        end
      end
    end
  end
end
