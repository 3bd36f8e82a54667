# frozen_string_literal: true

module NimbleLetter
  module Files
    # A file cannot be read, or not beyond a row. What was wrong, and where, is in the message.
    class Unreadable < Invalid
      def initialize(message, code: :file_unreadable, at: "file", **rest) = super
    end
  end
end
