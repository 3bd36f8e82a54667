# frozen_string_literal: true

module NimbleLetter
  module Core
    module Results
      # What has been heard of one letter, as bits: each kind once, however often it came. Every share of letters sent is counted
      # from these. They are kept, so a new kind goes behind the others.
      module Heard
        KINDS = %w[opened clicked replied bounced unsubscribed converted].freeze
        BITS = KINDS.each_with_index.to_h { |kind, i| [kind, 1 << i] }.freeze
        private_constant :BITS

        # @return [Integer] of some kinds together; 0 for what is none of them
        def self.bits(*kinds) = kinds.inject(0) { |bits, kind| bits | BITS.fetch(kind, 0) }

        # @return [Array<String>]
        def self.kinds(bits) = KINDS.select { |kind| bits.anybits?(BITS[kind]) }
      end
    end
  end
end
