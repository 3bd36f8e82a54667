# frozen_string_literal: true

module NimbleLetter
  module Core
    module Letters
      # What a letter's document is made of: each kind of node and what may stand in it. The editor, the reader and the
      # writers go by these names.
      module Nodes
        TEXT_BLOCKS = %w[paragraph heading].freeze
        LISTS = %w[bulletList orderedList].freeze
        IN_COLUMN = (TEXT_BLOCKS + LISTS + %w[picture button divider links]).freeze
        TOP = (IN_COLUMN + %w[quote columns conditional passage signature footer]).freeze

        # Which blocks each holder takes.
        HOLDS = {
          "doc" => TOP,
          "bulletList" => %w[listItem],
          "orderedList" => %w[listItem],
          "listItem" => ["paragraph", *LISTS],
          "quote" => ["paragraph", *LISTS],
          "columns" => %w[column],
          "column" => IN_COLUMN,
          "conditional" => %w[side],
          "side" => (TOP - %w[signature footer])
        }.freeze
        # Which hold words: text, merge fields, line breaks.
        INLINE = %w[paragraph heading button links].freeze
        # Which hold nothing.
        ATOMS = %w[divider picture passage signature footer].freeze
        MARKS = %w[bold italic link].freeze
        COLUMNS = 2
        CONDITIONAL_DEPTH = 2 # "unless she is a client, and then unless she is in York" is as far as people can follow

        # @yield [Hash] every node below and including this one, in reading order, with those in alt texts and links
        def self.each(node, &block)
          yield node
          attrs = node["attrs"]
          %w[alt href].each { |name| attrs[name].each { |child| each(child, &block) } if attrs[name].is_a?(Array) } if attrs
          node["content"]&.each { |child| each(child, &block) }
        end
      end
    end
  end
end
