# frozen_string_literal: true

module NimbleLetter
  module Core
    module Safety
      # How often something may be done: so many at once, then one every so many seconds. The generic cell rate algorithm
      # (ITU-T I.371): all that has to be kept is the instant from which the whole of it is there again.
      class Allowance
        attr_reader :at_once, :every_seconds

        # @param at_once [Integer] from 1
        # @param every_seconds [Numeric] above 0
        def initialize(at_once:, every_seconds:)
          raise ArgumentError, "from one up" if at_once < 1 || every_seconds <= 0

          @at_once, @every_seconds = at_once, every_seconds
          freeze
        end

        # @param full_at [Time, nil] nil: nothing of it has been used
        # @param now [Time]
        # @return [Float] seconds until one more may be done; 0.0 when it may be done now
        def wait_seconds(full_at, now)
          return 0.0 unless full_at

          [(full_at - now) - (at_once - 1) * every_seconds, 0.0].max
        end

        # @return [Time] when the whole is there again after one more has been used
        def used(full_at, now) = [full_at || now, now].max + every_seconds

        # @return [Time] when the whole is there again after one has been given back
        def given_back(full_at) = full_at - every_seconds
      end
    end
  end
end
