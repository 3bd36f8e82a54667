# frozen_string_literal: true

module NimbleLetter
  module Core
    module Tracking
      # When an open or a click is one that has been noted already: the same letter, the same link, the same day round. Mail
      # programs fetch a picture anew each time they show it, and a link can be fetched a thousand times.
      module SameTouch
        SECONDS = 24 * 3600

        # @param noted [Array<Hash>] :at and :link of those that have been noted of this kind and this letter
        # @param at [Time]
        # @param link [String, nil] as it was written
        def self.among?(noted, at, link) = noted.any? { |one| one[:link] == link && (at - one[:at]).abs < SECONDS }
      end
    end
  end
end
