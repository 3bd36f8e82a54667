# frozen_string_literal: true

module NimbleLetter
  module Core
    # What can be an e-mail address.
    module Address
      # RFC 5321 4.5.3.1 bounds the length; the rest only rules out what could never be delivered or would break a header.
      PATTERN = /\A[^\s<>",;@]{1,64}@[^\s<>",;@]{1,120}\.[^\s<>",;@.]{2,}\z/
    end
  end
end
