# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # What stands below every letter: who writes, and the way out.
      Foot = Struct.new(:address, :unsubscribe_url, :unsubscribe_words, keyword_init: true) do
        def initialize(unsubscribe_words: "Please don't write to me again", **rest) = super
      end
    end
  end
end
