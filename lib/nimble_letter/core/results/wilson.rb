# frozen_string_literal: true

module NimbleLetter
  module Core
    module Results
      # The interval within which a rate lies (Wilson, E. B., 1927, J. Am. Stat. Assoc. 22: 209-212), at 95 %.
      module Wilson
        Z = 1.959964 # normal quantile at 0.975

        # @param hits [Integer]
        # @param base [Integer]
        # @return [Array(Float, Float), nil] shares from 0.0 to 1.0; nil on an empty base
        def self.interval(hits, base)
          return if base.zero?

          share = hits.fdiv(base)
          z2 = Z * Z
          middle = (share + z2 / (2 * base)) / (1 + z2 / base)
          half = Z / (1 + z2 / base) * Math.sqrt(share * (1 - share) / base + z2 / (4.0 * base * base))
          [[middle - half, 0.0].max, [middle + half, 1.0].min]
        end
      end
    end
  end
end
