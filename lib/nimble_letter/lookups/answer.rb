# frozen_string_literal: true

module NimbleLetter
  module Lookups
    # What a service said, or why it said nothing.
    # facts: Hash, or nil; reason: String when there are none; down: whether others need not be asked just now
    Answer = Struct.new(:facts, :reason, :down, keyword_init: true) do
      def self.failed(reason, down: false) = new(reason: reason, down: down)

      def known? = !facts.nil?
    end
  end
end
