# frozen_string_literal: true

module NimbleLetter
  module Work
    # Notes what happened to a sequence as a whole.
    module SequenceEvents
      # @param kind [String] started, paused, resumed, stopped or ended
      # @param account_id [Integer, nil] who did it; nil when it came by itself
      def self.append(kind, sequence_id, at:, account_id: nil, data: nil)
        Records::SequenceEvent.insert(
          sequence_id: sequence_id,
          kind: kind,
          occurred_at: at,
          account_id: account_id,
          data: data && JSON.generate(data)
        )
      end
    end
  end
end
