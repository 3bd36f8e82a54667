# frozen_string_literal: true

module NimbleLetter
  module Records
    # A short mail of our own on its way.
    class Notice < Sequel::Model(:notices)
      many_to_one :mailbox
    end
  end
end
