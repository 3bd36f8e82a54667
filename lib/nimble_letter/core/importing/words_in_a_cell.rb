# frozen_string_literal: true

module NimbleLetter
  module Core
    module Importing
      # Several tags or lists in one cell: parted by commas, semicolons or bars; one that has such a mark within stands in
      # quotation marks, and a mark within those is written twice (as RFC 4180 2.7 has it for cells).
      module WordsInACell
        MARKS = /[,;|]/
        PARTS = /\s*(?:"((?:[^"]|"")*)"\s*(?=[,;|]|\z)|([^,;|]*))(?:[,;|]|\z)/

        LONGEST = 20_000

        # @param text [String]
        # @return [Array<String>] each once, without the empty ones
        def self.read(text)
          words = text[0, LONGEST].scan(PARTS).map { |quoted, plain| quoted ? quoted.gsub('""', '"') : plain }
          words.filter_map { |word| Letters::Values.clean(word) }.uniq
        end

        # @param words [Array<String>]
        # @return [String, nil]
        def self.write(words)
          return if words.empty?

          words.map { |word| word.match?(/[,;|"]|\A\s|\s\z/) ? %("#{word.gsub('"', '""')}") : word }.join("; ")
        end
      end
    end
  end
end
