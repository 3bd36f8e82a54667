# frozen_string_literal: true

module NimbleLetter
  module Records
    # A short mail of our own on its way.
    class Notice < Sequel::Model(:notices)
      # How the message ids of these mails begin.
      MARK = "notice-"

      many_to_one :mailbox
    end
  end
end
