# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # When what somebody types begins a new version of a letter, so that the one before stays as it was: another person
      # writes, after a pause, after a while, and always before much is taken away.
      module VersionRule
        PAUSE_SECONDS = 3 * 60
        LONGEST_SECONDS = 10 * 60
        # Fewer words than these are mended as one goes.
        FEW_WORDS = 8
        SHARE = 0.25

        # @param same_writer [Boolean]
        # @param since_begun [Numeric] seconds since the version was begun
        # @param since_left [Numeric] seconds since something was last typed into it
        # @param before [Hash{String=>String}] the words of each of its parts
        # @param after [Hash{String=>String}]
        # @return [Boolean] whether the version goes on
        def self.goes_on?(same_writer:, since_begun:, since_left:, before:, after:)
          same_writer && since_begun < LONGEST_SECONDS && since_left < PAUSE_SECONDS &&
            before.none? { |part, words| much_lost?(words, after.fetch(part, "")) }
        end

        # @return [Boolean] whether so much is gone that somebody might want it back
        def self.much_lost?(before, after)
          had, has = before.split.tally, after.split.tally
          total = had.values.sum
          lost = had.sum { |word, times| [times - has.fetch(word, 0), 0].max }
          return false if lost.zero?

          has.empty? || (lost >= FEW_WORDS && lost >= total * SHARE)
        end
      end
    end
  end
end
