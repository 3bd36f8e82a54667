# frozen_string_literal: true

module NimbleLetter
  module Core
    module Sending
      # A mailbox whose letters fail alike again and again rests, so that a server in trouble, or one that has closed its
      # door to us, is not asked five hundred times.
      module Rest
        IN_A_ROW = 5
        FIRST_SECONDS = 15 * 60
        LONGEST_SECONDS = 4 * 3600

        # @param row [Integer] failures alike, one after the other
        # @return [Integer, nil] seconds; nil while it goes on
        def self.seconds(row)
          return if row < IN_A_ROW

          # Doubled at most ten times: beyond that it is the longest anyway, and a large row makes no large number.
          [FIRST_SECONDS * 2**[row - IN_A_ROW, 10].min, LONGEST_SECONDS].min
        end
      end
    end
  end
end
