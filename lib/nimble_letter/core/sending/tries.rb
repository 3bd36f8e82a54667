# frozen_string_literal: true

module NimbleLetter
  module Core
    module Sending
      # How long to wait for a server that did not take a letter, and when to stop.
      module Tries
        # In minutes. RFC 5321 4.5.4.1: tries are spread, the first ones close together. The pauses add up to more than
        # 24 hours, so a mail server that is away for a working day loses nothing.
        PAUSES = [5, 10, 20, 40, 60, 120, 240, 240, 240, 240, 240].freeze
        MOST = PAUSES.size + 1

        # @param tries [Integer] made so far, from 1
        # @return [Integer, nil] seconds until the next one; nil when that was the last
        def self.pause_after(tries) = PAUSES[tries - 1]&.*(60)
      end
    end
  end
end
