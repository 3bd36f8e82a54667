# frozen_string_literal: true

require "securerandom"

module NimbleLetter
  module Work
    # The rehearsals that were run last, in memory: whoever looks into one asks about that one, and not about another that was run since.
    # Of one that is not kept any more nothing can be asked.
    class KeptRehearsals
      MOST = 6

      def initialize
        @kept, @mutex = {}, Mutex.new
      end

      # @return [Array(String, Rehearsed)] under what it is kept
      def keep(rehearsed)
        key = SecureRandom.hex(8)
        @mutex.synchronize do
          @kept.shift while @kept.size >= MOST
          @kept[key] = rehearsed
        end
        [key, rehearsed]
      end

      # @param key [String, nil]
      # @return [Rehearsed, nil] of that sequence
      def fetch(key, sequence_id)
        found = @mutex.synchronize { @kept[key] }
        found if found&.sequence_id == sequence_id
      end
    end
  end
end
