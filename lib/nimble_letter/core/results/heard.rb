# frozen_string_literal: true

module NimbleLetter
  module Core
    module Results
      # What has been heard of one letter, as bits: each kind once, however often it came. Every share of letters sent is counted
      # from these. They are kept, so a new kind goes behind the others.
      module Heard
        KINDS = %w[opened clicked replied bounced unsubscribed converted].freeze
        BITS = KINDS.each_with_index.to_h { |kind, i| [kind, 1 << i] }.freeze
        # Nothing was heard that a person does themselves.
        UNANSWERED = "unanswered"
        private_constant :BITS

        # @return [Integer] of some kinds together; 0 for what is none of them
        def self.bits(*kinds) = kinds.inject(0) { |bits, kind| bits | BITS.fetch(kind, 0) }

        # What a letter counts as. What is heard of it counts when it counts as sent: somebody may open one whose server never said that
        # it took it, and no share of those sent is more than all of them.
        # @param state [String] of a delivery
        # @param heard [Integer] bits
        # @return [Array<String>] its state; of one that is sent also KINDS, or UNANSWERED
        def self.counts_as(state, heard)
          return [state] unless state == "sent"

          unanswered = UNANSWERED if heard.nobits?(bits(*Journey::Happenings::REACTIONS))
          [state, *KINDS.select { |kind| heard.anybits?(BITS[kind]) }, *unanswered]
        end
      end
    end
  end
end
