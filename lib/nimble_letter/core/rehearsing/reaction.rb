# frozen_string_literal: true

module NimbleLetter
  module Core
    module Rehearsing
      # What somebody does at a fork before its time is over, and so do all who are alike and to whom the same happens. event_id: of
      # Journey::Known::Event, one and the same for what is assumed of one letter; step_id: the first of the lane they take by it, so many
      # seconds later; onward: the crowd to which the last of them went.
      Reaction = Struct.new(:event_id, :stand, :step_id, :delay, :onward) do
        # @param one [Traveller] somebody alike
        # @param came [Integer] to the fork, in seconds since 1970
        # @return [Boolean] whether they do the same, in good time, and nothing besides
        def of?(one, came)
          event = one.pending.first
          return false unless event && one.pending.size == 1 && event.id == event_id && one.unheeded?(stand)

          at = event.at.to_i
          at > came && at + delay < stand.leg(came)&.span&.opens.to_i
        end
      end
    end
  end
end
