# frozen_string_literal: true

module NimbleLetter
  module Core
    # What can be an e-mail address: what a letter can be addressed to and a mail server can be asked for.
    module Address
      # RFC 5322 3.2.3: what a local part is made of without quotes. Dots are taken anywhere, since some providers give out
      # such addresses; letters beyond a to z are not (RFC 6531 asks every server on the way to know them).
      LOCAL = /[A-Za-z0-9!#$%&'*+\/=?^_`{|}~.-]{1,64}/
      # Letters of other alphabets are fine here: a domain is written in its own way on the wire (RFC 5891).
      LABEL = /[\p{L}\p{M}\p{N}_](?:[\p{L}\p{M}\p{N}_-]{0,61}[\p{L}\p{M}\p{N}_])?/
      # RFC 5321 4.5.3.1 bounds the lengths.
      PATTERN = /\A#{LOCAL}@(?=.{4,190}\z)(?:#{LABEL}\.)+(?!\d+\z)[\p{L}\p{M}\p{N}](?:[\p{L}\p{M}\p{N}-]{0,61}[\p{L}\p{M}\p{N}])\z/
    end
  end
end
