# frozen_string_literal: true

module NimbleLetter
  module Core
    # Which addresses are one mailbox. Some providers deliver ann+news@ to ann@ (RFC 5233 3), others give such addresses to
    # different people, so a firm says which it means.
    module SameAddress
      # What a firm may say of addresses that differ only by what follows a plus sign.
      PLUS_TAGS = %w[different same].freeze
      TAGGED = /\A([^+@]+)\+[^@]*@/

      # @param fold [String, nil] an address or a domain, folded
      # @return [String, nil] without what follows a plus sign; as it is where nothing stands before one
      def self.trunk(fold) = fold&.sub(TAGGED, '\1@')
    end
  end
end
