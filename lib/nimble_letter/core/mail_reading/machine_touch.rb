# frozen_string_literal: true

module NimbleLetter
  module Core
    module MailReading
      # Tells opens and clicks made by scanners and previews from those of people. Kept, but never counted as a person's.
      module MachineTouch
        AGENTS = /bot\b|scanner|crawler|spider|preview|prefetch|monitor|curl|wget|python|ruby|java\//i
        # Nobody has read a letter this soon after it left; link scanners have.
        SECONDS_AFTER_SENDING = 10

        # @param agent [String, nil] what the caller says it is
        # @param purpose [String, nil] the Sec-Purpose or Purpose header
        # @param since_sent_seconds [Float]
        def self.machine?(agent:, purpose: nil, since_sent_seconds: Float::INFINITY)
          agent.to_s.empty? || agent.match?(AGENTS) || purpose.to_s.include?("prefetch") || since_sent_seconds < SECONDS_AFTER_SENDING
        end
      end
    end
  end
end
