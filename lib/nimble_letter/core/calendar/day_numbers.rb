# frozen_string_literal: true

module NimbleLetter
  module Core
    module Calendar
      # Local days of one zone, for whoever asks for a great many instants.
      class DayNumbers
        # @param zone [TZInfo::Timezone]
        def initialize(zone)
          @zone, @by_quarter = zone, {}
        end

        # @param seconds [Integer] since 1970
        # @return [Integer] see Zones.day_number
        def at(seconds)
          # A local day begins on a quarter of an hour in every zone in use.
          @by_quarter[seconds / Zones::QUARTER] ||= Zones.day_number(@zone, seconds)
        end
      end
    end
  end
end
